/** The object whose brightness changes most, of those that surely change and enough to be seen. Stops above a luminance of 1. */
import { channel, type Picture } from '../data/picture.ts';
import { luminancePlane } from '../picture/measured.ts';
import type { Figure } from './figure.ts';
import { MOST_STOPS, stopsBetween, stopsOf } from './stops-between.ts';
import { add, isApart, isPaired, isTaken, meanOf, none, SHARED, type Brightness, type Differences } from './sure-change.ts'; // prettier-ignore

/** Stops that a mean over few pixels may be off the mean over all. */
const LIKE = 0.15;
/** Stops between a mean over part of an object and over all of it, from which on the part does not stand for the whole. */
const PART = 1;
/** Stops that are seen where two pictures are held beside each other. */
const SEEN = 0.05;

export const mostChanged: Figure = {
  id: 'most-changed',
  label: 'Object that changes most',
  short: 'changes most',
  unit: 'stops',
  better: 'neither',
  change: 'difference',
  most: MOST_STOPS,
  seen: SEEN,
  tells: 'object',
  needs: () => ['beauty', 'object'],
  compare({ before, after, names, film }) {
    if (!before.picture || !after.picture) return { before: null, after: null };
    const [a, b] = [before.picture, after.picture].map((picture) => luminancePlane(picture, 'beauty'));
    const objects = channel(before.picture, 'object');
    const known = film && { here: sumsByObject(film.here), region: sumsByObject(film.region) };
    return found(a, b, objects, names, known);
  },
};

type Known = { here: Map<number, Brightness>; region: Map<number, Brightness> } | null;

function found(a: Float32Array, b: Float32Array, objects: Float32Array, names: string[], film: Known) {
  const [before, after] = [sumsBy(a, objects), sumsBy(b, objects)];
  const changes = new Map<number, Differences>();
  for (let i = 0; i < a.length; i++) {
    let own = changes.get(objects[i]);
    if (!own) changes.set(objects[i], (own = { squares: 0, down: 0 }));
    own.squares += (b[i] - a[i]) ** 2;
    own.down += Math.min(0, b[i] - a[i]);
  }
  let most: { of?: string; before: number | null; after: number | null } = { before: null, after: null };
  let far = SEEN;
  for (const [id, first] of before) {
    const second = after.get(id)!;
    if (first.n < SHARED || !(first.sum > 0)) continue;
    const known = film?.here.get(id);
    const whole = film?.region.get(id);
    if (known && whole && !(Math.abs(Math.log2(meanOf(known) / meanOf(whole))) <= PART)) continue;
    const isLike = !known || Math.abs(Math.log2(meanOf(first) / meanOf(known))) <= LIKE;
    const by = changes.get(id)!;
    // What is not seen to change in few pixels may be missing from both.
    const isDifferent = Math.abs(Math.log2(meanOf(second) / meanOf(first))) > LIKE;
    const isSure = isLike ? isPaired(first, second, by) : isDifferent && isApart(known, second);
    if (!isSure && !isTaken(first, second, by)) continue;
    const was = meanOf(isLike ? first : known);
    const size = Math.abs(stopsBetween(was, meanOf(second)));
    if (size < far) continue;
    far = size;
    most = { of: names[id - 1] ?? String(id), before: stopsOf(was), after: stopsOf(meanOf(second)) };
  }
  return most;
}

const sumsByObject = (picture: Picture): Map<number, Brightness> =>
  sumsBy(luminancePlane(picture, 'beauty'), channel(picture, 'object'));

function sumsBy(y: Float32Array, objects: Float32Array): Map<number, Brightness> {
  const sums = new Map<number, Brightness>();
  for (let i = 0; i < y.length; i++) {
    if (objects[i] === 0) continue;
    let own = sums.get(objects[i]);
    if (!own) sums.set(objects[i], (own = none()));
    add(own, y[i]);
  }
  return sums;
}
