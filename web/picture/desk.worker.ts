/** Beside the page: keeps pictures, draws what is on screen of them, measures and compares them. */
import type { Region } from '../../core/data/picture.ts';
import type { PictureFinding } from '../../core/diagnose/pictures/picture-diagnosis.ts';
import type { RenderedWith } from '../../core/diagnose/pictures/plan-in-numbers.ts';
import { diagnosePicture, isLookedAt, planesToDiagnose } from '../../core/diagnose/pictures/registry.ts';
import { balanced, gainOf, isBalanced } from '../../core/picture/balance.ts';
import { compareColours, type Colours } from '../../core/picture/compare.ts';
import { differencePlanes } from '../../core/picture/difference.ts';
import { hottest } from '../../core/picture/heat.ts';
import type { Look } from '../../core/picture/look.ts';
import { cropPlane, percentile } from '../../core/picture/measured.ts';
import { noisePlane, noiseOf } from '../../core/picture/noise.ts';
import { blankBeside, gather, paintColour, paintSigned, placed, type Placed } from '../../core/picture/paint.ts';
import { unpackPicture } from '../../core/picture/planes.ts';
import { levelFor, Pyramid } from '../../core/picture/pyramid.ts';
import { resampled } from '../../core/picture/resample.ts';
import { flickerOf } from '../../core/picture/sequence/flicker.ts';
import { spansOf, viewDirection, viewIds, viewPlace, viewScale } from '../../core/picture/view.ts';
import { decodeFile } from './decode-pool.ts';
import type { Answers, Cell, Compared, DeskLayer, DeskRequest, Drawn, FromDesk, Opened, SourceRef, Values } from './desk-messages.ts'; // prettier-ignore
import { Source } from './source.ts';

/** Bytes of planes that are kept; the least recently used pictures go. */
const MOST_BYTES = 1.5 * 2 ** 30;

const sources = new Map<string, Source>();
const refs = new Map<string, SourceRef>();
const opening = new Map<string, Promise<Source>>();
/** Greatest values of channels, by source and channel. */
const tops = new Map<string, number>();
const post = (message: FromDesk, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

async function open(key: string, ref: SourceRef): Promise<Source> {
  const before = refs.get(key);
  const isNewer = ref.kind === 'render' && before?.kind === 'render' && before.revision !== ref.revision;
  refs.set(key, ref);
  if (isNewer) {
    sources.delete(key);
    opening.delete(key);
    for (const name of tops.keys()) if (name.startsWith(`${key} `)) tops.delete(name);
  }
  const known = sources.get(key);
  if (known) {
    // Last in the order of use.
    sources.delete(key);
    sources.set(key, known);
    return known;
  }
  let work = opening.get(key);
  if (!work) {
    work = ref.kind === 'picture' ? openPicture(key, ref) : Promise.resolve(openRender(ref));
    opening.set(key, work);
    work.finally(() => opening.delete(key)).catch(() => {});
  }
  const source = await work;
  sources.set(key, source);
  makeRoom(key);
  return source;
}

function openRender({ layers, frame }: Extract<SourceRef, { kind: 'render' }>): Source {
  return new Source({ displayWindow: frame, pixelAspect: 1, layers, mattes: [], done: 1, firstMs: 0, allMs: 0 });
}

async function openPicture(key: string, { id, name }: Extract<SourceRef, { kind: 'picture' }>): Promise<Source> {
  const bytes = new Uint8Array(await (await fetched(`/api/pictures/${id}/file`)).arrayBuffer());
  const begin = performance.now();
  let source: Source | null = null;
  const file = await decodeFile(bytes, name, (whole, share) => {
    source ??= Source.ofFile(whole);
    sources.set(key, source);
    source.filled();
    if (share > 0 && source.opened.firstMs === 0) source.opened.firstMs = performance.now() - begin;
    source.opened.done = share;
    post({ event: 'rows', key, opened: source.opened });
  });
  const whole = source ?? Source.ofFile(file);
  whole.filled();
  whole.opened.done = 1;
  whole.opened.allMs = performance.now() - begin;
  whole.opened.firstMs ||= whole.opened.allMs;
  post({ event: 'rows', key, opened: whole.opened });
  return whole;
}

async function fetched(path: string): Promise<Response> {
  const response = await fetch(path).catch(() => null);
  if (!response) throw new Error('The server does not answer.');
  if (response.ok) return response;
  const body = (await response.json().catch(() => null)) as { error?: string } | null;
  throw new Error(body?.error ?? `The server answered ${response.status}.`);
}

function makeRoom(except: string): void {
  let sum = [...sources.values()].reduce((all, { bytes }) => all + bytes, 0);
  for (const [key, { bytes }] of sources) {
    if (sum <= MOST_BYTES) return;
    if (key === except) continue;
    sources.delete(key);
    sum -= bytes;
  }
}

/** Fetches passes of a render that are not here yet. */
async function ensure(key: string, source: Source, channels: string[]): Promise<void> {
  const ref = refs.get(key);
  if (ref?.kind !== 'render') return;
  const passes = source.opened.layers.filter(
    (layer) => layer.channels.some((one) => channels.includes(one)) && !source.planes.has(layer.channels[0]),
  );
  if (passes.length === 0) return;
  const names = passes.map(({ name }) => encodeURIComponent(name)).join(',');
  const { picture } = unpackPicture(await (await fetched(`/api/renders/${ref.id}/picture?passes=${names}`)).arrayBuffer()); // prettier-ignore
  const { x, y, width, height } = picture;
  for (const [name, values] of picture.channels) source.put(name, { values, window: { x, y, width, height } });
}

async function ready(key: string, layers: string[]): Promise<Source> {
  const source = sources.get(key) ?? (await open(key, refs.get(key)!));
  await ensure(
    key,
    source,
    layers.flatMap((name) => source.layer(name)?.channels ?? []),
  );
  return source;
}

/** Where a scale of one-channel layers ends, and where light is normalised to. */
function topOf(key: string, source: Source, channel: string, share: number): number {
  const name = `${key} ${channel}`;
  const known = source.opened.done === 1 ? tops.get(name) : undefined;
  if (known !== undefined) return known;
  const values = source.planes.get(channel)!.values;
  const step = Math.max(1, Math.floor(values.length / 40_000));
  const some: number[] = [];
  for (let i = 0; i < values.length; i += step) if (values[i] - values[i] === 0) some.push(values[i]);
  const top = percentile(some, share) || 1;
  tops.set(name, top);
  return top;
}

/** All passes that are to be drawn, of each picture in one request. */
async function readyFor(cells: Cell[]): Promise<void> {
  for (const key of new Set(cells.map((cell) => cell.key)))
    await ready(
      key,
      cells.filter((cell) => cell.key === key).map(({ layer }) => layer),
    );
}

async function drawCell(cell: Cell, seen: Look): Promise<Drawn | null> {
  const look = { ...seen, space: cell.space ?? seen.space, exposure: seen.exposure - cell.bakedExposure };
  let top: number | null = null;
  const { screen } = cell;
  if (screen.width < 1 || screen.height < 1) return null;
  const groups = isBalanced(cell.balance) ? Object.keys(cell.balance) : [];
  const source = await ready(cell.key, [cell.layer, ...groups]);
  const layer = source.layer(cell.layer);
  if (!layer || !layer.shown.every((name) => source.planes.has(name))) return null;
  const out = new Uint8ClampedArray(screen.width * screen.height * 4);
  if (cell.against) {
    if (!(await paintDifference(cell, source, look, out))) return null;
  } else {
    const window = source.planes.get(layer.shown[0])!.window;
    const level = levelFor(screen.scale);
    const spot = placed(screen, window, level);
    const way = layer.look === 'id' ? 'first' : 'mean';
    const planes = layer.shown.map((name) => gather(source.pyramid(name, way)!.level(level).plane, spot));
    if (layer.look === 'light') {
      const used = groups.length ? withBalance(cell, source, planes, level, spot) : planes;
      const wantsAlpha = layer.alpha !== null && (look.behind !== 'nothing' || look.solo === 'alpha');
      const alpha = wantsAlpha ? gather(source.pyramid(layer.alpha!, way)!.level(level).plane, spot) : null;
      // Nearly its brightest comes to white.
      const own = cell.isNormalised ? -Math.log2(topOf(cell.key, source, layer.shown[1], 0.98)) : 0;
      paintColour(used, alpha, spot, { ...look, exposure: look.exposure + own }, out);
    } else {
      const hasScale = layer.look === 'amount' || layer.look === 'count' || layer.look === 'flow';
      top = layer.look === 'share' ? 1 : hasScale ? topOf(cell.key, source, layer.shown[0], 0.995) : null;
      paintData(source, layer, planes, look, top ?? 1, out);
    }
    blankBeside(spot, out);
  }
  if (cell.mask) hatch(source.mask(cell.mask), screen, out);
  return { image: new ImageData(out, screen.width, screen.height), top };
}

function paintData(
  source: Source,
  layer: DeskLayer,
  planes: Float32Array[],
  { exposure }: Look,
  top: number,
  out: Uint8ClampedArray,
): void {
  const [a, b, c] = planes;
  switch (layer.look) {
    case 'direction':
      return viewDirection(a, b, c, out);
    case 'place':
      // By the whole picture, so that colours stay when it is zoomed.
      return viewPlace(planes, out, spansOf(layer.shown.map((name) => source.planes.get(name)!.values)));
    case 'id':
      return viewIds(layer.role === 'matte' ? numbersOf(a) : a, out);
    case 'flow':
      return viewScale(a.map((v, i) => Math.hypot(v, b[i])), top / 2 ** exposure, out); // prettier-ignore
    default:
      return viewScale(a, top / 2 ** exposure, out);
  }
}

/** Ids that are hashes kept as floats, as whole numbers that are told apart. */
const numbersOf = (ids: Float32Array): Uint32Array =>
  new Uint32Array(ids.buffer, ids.byteOffset, ids.length).map((bits) => bits & 0xffffff);

function withBalance(
  { balance }: Cell,
  source: Source,
  planes: Float32Array[],
  level: number,
  spot: Placed,
): Float32Array[] {
  // prettier-ignore
  return planes.map((plane, c) => {
    const groups = Object.entries(balance).flatMap(([name, set]) => {
      const channel = source.layer(name)?.shown[c];
      const pyramid = channel === undefined ? null : source.pyramid(channel, 'mean');
      return pyramid ? [{ plane: gather(pyramid.level(level).plane, spot), gain: gainOf(set) }] : [];
    });
    return balanced(plane, groups, new Float32Array(plane.length));
  });
}

/** The pyramid of the last difference, by what it is of. */
let lastDifference: { of: string; a: Source; b: Source; planes: Pyramid[]; window: Region } | null = null;

async function paintDifference(cell: Cell, source: Source, look: Look, out: Uint8ClampedArray): Promise<boolean> {
  const { key, kind, times } = cell.against!;
  const other = await ready(key, [cell.layer]);
  const of = [cell.key, key, cell.layer, kind].join(' ');
  // Sources are made anew when a render goes on, and fill up while a file is decoded.
  const isStale =
    lastDifference?.a !== source || lastDifference.b !== other || Math.min(source.opened.done, other.opened.done) < 1;
  if (lastDifference?.of !== of || isStale) {
    const [a, b] = [source.colours(cell.layer), other.colours(cell.layer)];
    if (!a || !b) return false;
    const window: Region = { x: a.x, y: a.y, width: a.width, height: a.height };
    const planes = differencePlanes(kind, a, resampled(b, sizeFactor(source, other)));
    lastDifference = {
      of,
      a: source,
      b: other,
      window,
      planes: planes.map((plane) => new Pyramid(plane, a.width, a.height, 'mean')),
    };
  }
  const { planes, window } = lastDifference!;
  const level = levelFor(cell.screen.scale);
  const spot = placed(cell.screen, window, level);
  const seen = planes.map((plane) => gather(plane.level(level).plane, spot));
  if (kind === 'absolute') {
    const amplified = seen.map((plane) => plane.map((v) => (v - v === 0 ? v * times : 0)));
    paintColour(amplified, null, spot, { ...look, solo: 'colour', isInStops: false, marks: false }, out);
  } else paintSigned(seen[0], (kind === 'stops' ? 2 : 1) / times, out);
  blankBeside(spot, out);
  return true;
}

/** By how much B has to grow to be as wide as A. */
function sizeFactor(a: Source, b: Source): number {
  const width = ({ displayWindow: w }: Opened) => w.maxX - w.minX + 1;
  return width(a.opened) / width(b.opened);
}

function hatch(
  mask: { values: ArrayLike<number>; window: Region } | null,
  screen: Cell['screen'],
  out: Uint8ClampedArray,
): void {
  if (!mask) return;
  // A single pixel must be found from afar: where the picture is small, its whole neighbourhood on screen is hatched.
  const spot = placed(screen, mask.window, 0);
  const reach = screen.scale < 4 ? 2 : 0;
  const seen = gather(mask.values, spot);
  if (screen.scale < 1) markFar(mask, screen, seen);
  const { width, height } = screen;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let isIn = seen[y * width + x] > 0;
      for (let dy = -reach; dy <= reach && !isIn; dy++)
        for (let dx = -reach; dx <= reach && !isIn; dx++) isIn = seen[(y + dy) * width + x + dx] > 0 && x + dx >= 0 && x + dx < width; // prettier-ignore
      if (isIn && (x + y) % 6 < 2) out.set([214, 220, 92, 255], (y * width + x) * 4);
    }
}

/** Pixels that a small screen would skip. */
function markFar(
  { values, window }: { values: ArrayLike<number>; window: Region },
  screen: Cell['screen'],
  seen: Float32Array,
): void {
  for (let i = 0; i < values.length; i++) {
    if (!values[i]) continue;
    const x = Math.floor(((i % window.width) + window.x + 0.5) * screen.scale * screen.aspect + screen.x);
    const y = Math.floor((Math.floor(i / window.width) + window.y + 0.5) * screen.scale + screen.y);
    if (x >= 0 && y >= 0 && x < screen.width && y < screen.height) seen[y * screen.width + x] = 1;
  }
}

async function valuesAt(key: string, x: number, y: number, radius: number): Promise<Values | null> {
  const source = sources.get(key);
  if (!source) return null;
  const channels = [...source.planes].flatMap(([name, { values, window }]) => {
    let [sum, squares, count] = [0, 0, 0];
    for (let py = y - radius; py <= y + radius; py++)
      for (let px = x - radius; px <= x + radius; px++) {
        const [column, row] = [px - window.x, py - window.y];
        if (column < 0 || row < 0 || column >= window.width || row >= window.height) continue;
        const value = values[row * window.width + column];
        sum += value;
        squares += value * value;
        count += 1;
      }
    if (count === 0) return [];
    const mean = sum / count;
    return [{ name, mean, deviation: count > 1 ? Math.sqrt(Math.max(0, squares / count - mean * mean)) : null }];
  });
  return { x, y, channels, named: source.namedAt(x, y) };
}

const inside = (a: Region, b: Region): Region => {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  return { x, y, width: Math.min(a.x + a.width, b.x + b.width) - x, height: Math.min(a.y + a.height, b.y + b.height) - y }; // prettier-ignore
};

function cropped(colours: Colours, region: Region | null): Colours {
  if (!region) return colours;
  const part = inside(colours, region);
  if (part.width < 1 || part.height < 1) throw new RangeError('the region lies beside the picture');
  const planes = colours.planes.map((plane) => crop(plane, colours, part)) as unknown as Colours['planes'];
  return { ...part, planes };
}
const crop = (plane: ArrayLike<number>, { x, y, width, height }: Region, part: Region) =>
  cropPlane({ x, y, width, height, channels: new Map() }, Float32Array.from(plane), part);

/** @param isEstimated from the picture, whatever error came along */
async function noise(key: string, layer: string, region: Region | null, isEstimated = false) {
  const source = await ready(key, [layer, `error.${layer || 'beauty'}`]);
  const found = source.luminance(layer);
  if (!found) return null;
  const part = region ? inside(found.window, region) : found.window;
  if (part.width < 1 || part.height < 1) return null;
  const [y, sigma] = region ? [crop(found.y, found.window, part), found.sigma && crop(found.sigma, found.window, part)] : [found.y, found.sigma]; // prettier-ignore
  return noiseOf(y, isEstimated ? null : sigma, part.width, part.height);
}

async function compare(a: string, b: string, layer: string, region: Region | null): Promise<Compared> {
  const wanted = [layer, `error.${layer || 'beauty'}`];
  const [p, q] = [await ready(a, wanted), await ready(b, wanted)];
  const [first, second] = [p.colours(layer), q.colours(layer)];
  if (!first || !second) throw new RangeError(`Only one of them has the layer ${layer || 'without a name'}.`);
  const resized = sizeFactor(p, q);
  const difference = compareColours(cropped(first, region), cropped(resampled(second, resized), region));
  const ofB = region && { x: region.x / resized, y: region.y / resized, width: region.width / resized, height: region.height / resized }; // prettier-ignore
  // Measured and estimated noise are not held against each other: one counts fireflies, the other does not.
  const isEstimated = [p, q].some((one) => one.luminance(layer)?.sigma === null);
  const noises = await Promise.all([noise(a, layer, region, isEstimated), noise(b, layer, ofB, isEstimated)]);
  if (!noises[0] || !noises[1]) throw new RangeError('A layer without colours has no noise to compare.');
  return { difference, noise: noises as Compared['noise'], resized };
}

async function flicker(a: string, b: string) {
  const [p, q] = [await ready(a, []), await ready(b, [])];
  const beauty = p.opened.layers.find(({ role }) => role === 'beauty')?.name ?? '';
  const [first, second] = [p.luminance(beauty), q.luminance(beauty)];
  if (!first || !second) throw new RangeError('A frame has no beauty.');
  const { width, height } = first.window;
  if (second.window.width !== width || second.window.height !== height)
    throw new RangeError('The frames have different windows.');
  const sigma = first.sigma ?? noisePlane(first.y, width, height);
  const motion = motionOf(p);
  return flickerOf(first.y, second.y, sigma, width, height, motion);
}

function motionOf(source: Source) {
  const layer = source.opened.layers.find(({ look }) => look === 'flow');
  const [x, y] = layer?.shown.map((name) => source.planes.get(name)?.values) ?? [];
  return x && y ? { x, y } : null;
}

async function heat(key: string, ids: string, cost: string) {
  const source = await ready(key, [ids, cost]);
  const [a, b] = [ids, cost].map((name) => source.planes.get(source.layer(name)?.shown[0] ?? '')?.values);
  if (!a || !b || a.length !== b.length) throw new RangeError('The picture has no pass of cost, or none of objects.');
  return hottest(a, b);
}

/** @param beside keys of the frames before and after */
async function causes(key: string, beside: string[], renderedWith: RenderedWith): Promise<PictureFinding[]> {
  const picture = await toLookAt(key, renderedWith);
  if (!picture) return [];
  const frames: Float32Array[] = [];
  for (const other of beside) {
    const { luminance } = (await toLookAt(other, null)) ?? {};
    if (luminance?.length === picture.luminance.length) frames.push(luminance);
  }
  return diagnosePicture({ ...picture, beside: frames });
}

async function toLookAt(key: string, renderedWith: RenderedWith | null) {
  const known = sources.get(key) ?? (await open(key, refs.get(key)!));
  const layers = known.opened.layers.filter(isLookedAt);
  const source = await ready(key, layers.map(({ name }) => name)); // prettier-ignore
  const names = layers.flatMap(({ channels }) => channels).filter((name) => source.planes.has(name));
  const window = source.planes.get(names[0])?.window;
  if (!window) return null;
  // Parts with other windows are pictures of their own.
  const same = names.filter((name) => {
    const { x, y, width, height } = source.planes.get(name)!.window;
    return x === window.x && y === window.y && width === window.width && height === window.height;
  });
  const planes = new Map(same.map((name) => [name, source.planes.get(name)!.values]));
  return planesToDiagnose({ width: window.width, height: window.height, planes }, renderedWith);
}

async function answerTo(request: DeskRequest): Promise<Answers[keyof Answers]> {
  switch (request.do) {
    case 'open':
      return (await open(request.key, request.ref)).opened;
    case 'draw': {
      await readyFor(request.cells);
      const drawn: (Drawn | null)[] = [];
      for (const cell of request.cells) drawn.push(await drawCell(cell, request.look));
      return drawn;
    }
    case 'values':
      return valuesAt(request.key, request.x, request.y, request.radius);
    case 'compare':
      return compare(request.a, request.b, request.layer, request.region);
    case 'noise':
      return noise(request.key, request.layer, request.region);
    case 'flicker':
      return flicker(request.a, request.b);
    case 'heat':
      return heat(request.key, request.ids, request.cost);
    case 'causes':
      return causes(request.key, request.beside, request.renderedWith);
  }
}

self.onmessage = ({ data }: MessageEvent<DeskRequest & { id: number }>) => {
  answerTo(data).then(
    (result) => {
      const moved = Array.isArray(result) ? result.flatMap((one) => (one && 'image' in one ? [one.image.data.buffer] : [])) : []; // prettier-ignore
      post({ id: data.id, result }, moved);
    },
    (error: Error) => post({ id: data.id, error: error.message }),
  );
};
