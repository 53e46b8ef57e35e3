/** What a change does, told by two pictures of the same pixels: the figures that predictions state and trials measure. */
import type { Effect } from '../contracts/finding.ts';
import { channel, type Picture } from '../data/picture.ts';
import { grainOf } from '../data/grain.ts';
import { luminancePlane } from '../picture/measured.ts';
import { stopsBetween } from './stops-between.ts';
import { FIREFLY_PASSES, singleFireflies } from '../picture/single-fireflies.ts';

/** Passes that both pictures must have. */
export const EFFECT_PASSES = [...new Set([...FIREFLY_PASSES, 'error.beauty', 'cost', 'object'])];

/** So many standard errors beyond which a change of an object's brightness is one. */
const SURE = 2.5;
/** Pixels that must share in an object's light: where few bright ones hold it, a mean tells nothing (Kish 1965). */
const SHARED = 40;
/** Share of all change that goes down where light is taken, and none is moved. */
const TAKEN = 0.95;
/** Stops that a mean over few pixels may be off the mean over all. */
const LIKE = 0.15;
/** Stops between a mean over part of an object and over all of it, from which on the part does not stand for the whole. */
const PART = 1;
/** Pixels that must share in that. */
const FEW = 5;
/** Stops that are seen where two pictures are held beside each other. */
const SEEN = 0.05;

/**
 * @param mask a byte for each of their pixels, whose brightness counts; all where none is set
 * @param names what objects are called, by number from 0
 * @param deciding samples of each pixel that stay out of the pictures, before and after, see `adaptive.ts`
 * @param film before the change by other random numbers, at the same pixels and over all of the region that they stand
 *   for: light met by chance may be missing from one, and part of an object from few pixels
 */
export function effectOf(
  before: Picture,
  after: Picture,
  mask: Uint8Array | null,
  names: string[],
  deciding: [number, number],
  film: { here: Picture; region: Picture } | null = null,
): Effect {
  const [a, b] = [before, after].map((picture) => luminancePlane(picture, 'beauty'));
  const counts = mask?.includes(1) ? mask : null;
  const light = (y: Float32Array) => y.reduce((sum, value, i) => (counts === null || counts[i] ? sum + value : sum), 0);
  return {
    // Foretold from few pixels, a change that is less than chance brings is none.
    stops: film === null || isSureOf(a, b, counts) ? stopsBetween(light(a), light(b)) : 0,
    cost: raysOf(after, deciding[1]) / raysOf(before, deciding[0]),
    grainBefore: grainOf(a, channel(before, 'error.beauty')),
    grainAfter: grainOf(b, channel(after, 'error.beauty')),
    fireflies: { before: singleFireflies(before).length, after: singleFireflies(after).length },
    look: changedMost(
      a,
      b,
      channel(before, 'object'),
      names,
      film && { here: sumsByObject(film.here), region: sumsByObject(film.region) },
    ),
  };
}

const raysOf = (picture: Picture, deciding: number): number => {
  const samples = channel(picture, 'samples');
  return channel(picture, 'cost').reduce((sum, rays, i) => sum + rays * (samples[i] + deciding), 0);
};

/** Brightness of one object's pixels. */
interface Brightness {
  n: number;
  sum: number;
  squares: number;
}

function sumsByObject(picture: Picture): Map<number, Brightness> {
  const sums = new Map<number, Brightness>();
  addBrightness(sums, luminancePlane(picture, 'beauty'), channel(picture, 'object'));
  return sums;
}

function addBrightness(sums: Map<number, Brightness>, y: Float32Array, objects: Float32Array): void {
  for (let i = 0; i < y.length; i++) {
    if (objects[i] === 0) continue;
    let own = sums.get(objects[i]);
    if (!own) sums.set(objects[i], (own = { n: 0, sum: 0, squares: 0 }));
    own.n += 1;
    own.sum += y[i];
    own.squares += y[i] * y[i];
  }
}

const meanOf = ({ n, sum }: Brightness): number => sum / n;
/** Pixels that share in the light (Kish 1965). */
const sharing = ({ sum, squares }: Brightness): number => (squares > 0 ? (sum * sum) / squares : 0);

function isSureOf(a: Float32Array, b: Float32Array, counts: Uint8Array | null): boolean {
  const one = Float32Array.from(a, (_, i) => (counts === null || counts[i] ? 1 : 0));
  const [before, after] = [new Map<number, Brightness>(), new Map<number, Brightness>()];
  addBrightness(before, a, one);
  addBrightness(after, b, one);
  const [first, second] = [before.get(1), after.get(1)];
  if (!first || !second) return false;
  let [squares, down] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    if (one[i] === 0) continue;
    squares += (b[i] - a[i]) ** 2;
    down += Math.min(0, b[i] - a[i]);
  }
  return isTaken(first, second, down, squares) || isPaired(first, second, squares);
}

/** The object whose brightness changes most, of those that surely change and enough to be seen. */
function changedMost(
  a: Float32Array,
  b: Float32Array,
  objects: Float32Array,
  names: string[],
  film: { here: Map<number, Brightness>; region: Map<number, Brightness> } | null,
): Effect['look'] {
  const [before, after] = [new Map<number, Brightness>(), new Map<number, Brightness>()];
  addBrightness(before, a, objects);
  addBrightness(after, b, objects);
  const changes = new Map<number, { squares: number; down: number }>();
  for (let i = 0; i < a.length; i++) {
    const own = changes.get(objects[i]) ?? { squares: 0, down: 0 };
    changes.set(objects[i], own);
    own.squares += (b[i] - a[i]) ** 2;
    own.down += Math.min(0, b[i] - a[i]);
  }
  let most: Effect['look'] = null;
  for (const [id, first] of before) {
    const second = after.get(id)!;
    if (first.n < SHARED || !(first.sum > 0)) continue;
    const known = film?.here.get(id);
    const whole = film?.region.get(id);
    if (known && whole && !(Math.abs(Math.log2(meanOf(known) / meanOf(whole))) <= PART)) continue;
    const isLike = !known || Math.abs(Math.log2(meanOf(first) / meanOf(known))) <= LIKE;
    const { squares, down } = changes.get(id)!;
    // What is not seen to change in few pixels may be missing from both.
    const isDifferent = Math.abs(Math.log2(meanOf(second) / meanOf(first))) > LIKE;
    const isSure = isLike ? isPaired(first, second, squares) : isDifferent && isApart(known, second);
    if (!isSure && !isTaken(first, second, down, squares)) continue;
    const stops = stopsBetween(meanOf(isLike ? first : known), meanOf(second));
    if (Math.abs(stops) >= SEEN && Math.abs(stops) > Math.abs(most?.stops ?? 0))
      most = { object: names[id - 1] ?? String(id), stops };
  }
  return most;
}

/** Light that is taken and none moved. */
function isTaken(first: Brightness, second: Brightness, down: number, squares: number): boolean {
  const change = second.sum - first.sum;
  return change < 0 && down <= -TAKEN * (change - 2 * down) && down * down >= FEW * squares;
}

/** Pixel by pixel, on the same random numbers. */
function isPaired(first: Brightness, second: Brightness, squares: number): boolean {
  const change = second.sum - first.sum;
  if (sharing(first) < SHARED || sharing(second) < SHARED) return false;
  return Math.abs(change) >= SURE * Math.sqrt(Math.max(0, squares - (change * change) / first.n));
}

/** Two means, each with its own spread. */
function isApart(first: Brightness, second: Brightness): boolean {
  const [p, q] = [sharing(first), sharing(second)];
  if (p < SHARED || q < SHARED) return false;
  return Math.abs(Math.log(meanOf(second) / meanOf(first))) >= SURE * Math.sqrt(1 / p + 1 / q);
}
