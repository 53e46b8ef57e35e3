/** What is measured of the pictures that are kept: values, noise, differences, flicker, heat. */
import type { Region } from '../../../core/data/picture.ts';
import { compareColours, type Colours } from '../../../core/picture/compare.ts';
import { hottest } from '../../../core/picture/heat.ts';
import { cropPlane } from '../../../core/picture/measured.ts';
import { noiseOf, noisePlane } from '../../../core/picture/noise.ts';
import { resampled } from '../../../core/picture/resample.ts';
import { frameFigures, type FrameFigures } from '../../../core/picture/sequence/frame-figures.ts';
import { flickerOf } from '../../../core/picture/sequence/flicker.ts';
import type { Compared, Values } from '../desk-messages.ts';
import { sizeFactor, type Source } from '../source.ts';
import type { Shelf } from './shelf.ts';

export function valuesAt(shelf: Shelf, key: string, x: number, y: number, radius: number): Values | null {
  const source = shelf.known(key);
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
export async function noise(shelf: Shelf, key: string, layer: string, region: Region | null, isEstimated = false) {
  const source = await shelf.ready(key, [layer, `error.${layer || 'beauty'}`]);
  const found = source.luminance(layer);
  if (!found) return null;
  const part = region ? inside(found.window, region) : found.window;
  if (part.width < 1 || part.height < 1) return null;
  const [y, sigma] = region ? [crop(found.y, found.window, part), found.sigma && crop(found.sigma, found.window, part)] : [found.y, found.sigma]; // prettier-ignore
  return noiseOf(y, isEstimated ? null : sigma, part.width, part.height);
}

export async function compare(
  shelf: Shelf,
  a: string,
  b: string,
  layer: string,
  region: Region | null,
): Promise<Compared> {
  const wanted = [layer, `error.${layer || 'beauty'}`];
  const [p, q] = [await shelf.ready(a, wanted), await shelf.ready(b, wanted)];
  const [first, second] = [p.colours(layer), q.colours(layer)];
  if (!first || !second) throw new RangeError(`Only one of them has the layer ${layer || 'without a name'}.`);
  const resized = sizeFactor(p, q);
  const difference = compareColours(cropped(first, region), cropped(resampled(second, resized), region));
  const ofB = region && { x: region.x / resized, y: region.y / resized, width: region.width / resized, height: region.height / resized }; // prettier-ignore
  // Measured and estimated noise are not held against each other: one counts fireflies, the other does not.
  const isEstimated = [p, q].some((one) => one.luminance(layer)?.sigma === null);
  const noises = await Promise.all([
    noise(shelf, a, layer, region, isEstimated),
    noise(shelf, b, layer, ofB, isEstimated),
  ]);
  if (!noises[0] || !noises[1]) throw new RangeError('A layer without colours has no noise to compare.');
  return { difference, noise: noises as Compared['noise'], resized };
}

/** What a sequence is charted by; null for a picture without colours. */
export async function figuresOfFrame(shelf: Shelf, key: string): Promise<FrameFigures | null> {
  const source = await shelf.ready(key, ['beauty', 'error.beauty']);
  const beauty = source.opened.layers.find(({ role }) => role === 'beauty')?.name ?? '';
  const found = source.luminance(beauty);
  return found && frameFigures(found.y, found.sigma, found.window.width, found.window.height);
}

export async function flicker(shelf: Shelf, a: string, b: string) {
  const [p, q] = [await shelf.ready(a, []), await shelf.ready(b, [])];
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

export async function heat(shelf: Shelf, key: string, ids: string, cost: string) {
  const source = await shelf.ready(key, [ids, cost]);
  const [a, b] = [ids, cost].map((name) => source.planes.get(source.layer(name)?.shown[0] ?? '')?.values);
  if (!a || !b || a.length !== b.length) throw new RangeError('The picture has no pass of cost, or none of objects.');
  return hottest(a, b);
}
