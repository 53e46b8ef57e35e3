/** Draws what is on screen of a picture, at the screen's own pixels. */
import type { Region } from '../../../core/data/picture.ts';
import { balanced, gainOf, isBalanced } from '../../../core/picture/balance.ts';
import { differencePlanes } from '../../../core/picture/difference.ts';
import type { Look } from '../../../core/picture/look.ts';
import { blankBeside, gather, paintColour, paintSigned, placed, type Placed } from '../../../core/picture/paint.ts';
import { levelFor, Pyramid } from '../../../core/picture/pyramid.ts';
import { resampled } from '../../../core/picture/resample.ts';
import { spansOf, viewDirection, viewIds, viewPlace, viewScale } from '../../../core/picture/view.ts';
import type { Cell, DeskLayer, Drawn } from '../desk-messages.ts';
import { sizeFactor, type Source } from '../source.ts';
import { hatch } from './hatch.ts';
import type { Shelf } from './shelf.ts';

/** @returns a picture for each cell; null where there is nothing to draw */
export async function drawCells(shelf: Shelf, cells: Cell[], look: Look): Promise<(Drawn | null)[]> {
  await readyFor(shelf, cells);
  const drawn: (Drawn | null)[] = [];
  for (const cell of cells) drawn.push(await drawCell(shelf, cell, look));
  return drawn;
}

/** All passes that are to be drawn, of each picture in one request. */
async function readyFor(shelf: Shelf, cells: Cell[]): Promise<void> {
  for (const key of new Set(cells.map((cell) => cell.key)))
    await shelf.ready(
      key,
      cells.filter((cell) => cell.key === key).map(({ layer }) => layer),
    );
}

async function drawCell(shelf: Shelf, cell: Cell, seen: Look): Promise<Drawn | null> {
  const look = { ...seen, space: cell.space ?? seen.space, exposure: seen.exposure - cell.bakedExposure };
  let top: number | null = null;
  const { screen } = cell;
  if (screen.width < 1 || screen.height < 1) return null;
  const groups = isBalanced(cell.balance) ? Object.keys(cell.balance) : [];
  const source = await shelf.ready(cell.key, [cell.layer, ...groups]);
  const layer = source.layer(cell.layer);
  if (!layer || !layer.shown.every((name) => source.planes.has(name))) return null;
  const out = new Uint8ClampedArray(screen.width * screen.height * 4);
  if (cell.against) {
    if (!(await paintDifference(shelf, cell, source, look, out))) return null;
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
      const own = cell.isNormalised ? -Math.log2(shelf.topOf(cell.key, source, layer.shown[1], 0.98)) : 0;
      paintColour(used, alpha, spot, { ...look, exposure: look.exposure + own }, out);
    } else {
      const hasScale = layer.look === 'amount' || layer.look === 'count' || layer.look === 'flow';
      top =
        cell.top ??
        (layer.look === 'share' ? 1 : hasScale ? shelf.topOf(cell.key, source, layer.shown[0], 0.995) : null);
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

async function paintDifference(
  shelf: Shelf,
  cell: Cell,
  source: Source,
  look: Look,
  out: Uint8ClampedArray,
): Promise<boolean> {
  const { key, kind, times } = cell.against!;
  const other = await shelf.ready(key, [cell.layer]);
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
