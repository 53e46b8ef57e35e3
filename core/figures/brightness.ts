/** Mean brightness of the region, or of what a finding marks in it, on the pass that shows the change. Stops above a luminance of 1. */
import type { Figure } from './figure.ts';
import { luminancePlane } from '../picture/measured.ts';
import { brightPass, planeOf } from './planes.ts';
import { seenPasses } from './seen-in.ts';
import { isHeldByFew, isSureChange, missesLight, sumsOf } from './sure-change.ts';
import { BLACK_STOPS, MOST_STOPS, stopsOf } from './stops-between.ts';

export const brightness: Figure = {
  id: 'brightness',
  label: 'Brightness',
  short: 'brightness',
  unit: 'stops',
  better: 'neither',
  change: 'difference',
  most: MOST_STOPS,
  seen: 0.05,
  needs: seenPasses,
  compare({ before, after, pass: seen, mask, film }) {
    const pass = before.picture ? brightPass(before.picture, seen) : seen;
    const [a, b] = [before, after].map(({ picture }) => (picture ? planeOf(picture, pass) : null));
    if (!a || !b) return { before: null, after: null };
    const counts = mask?.includes(1) ? mask : null;
    const [was, is] = [meanStops(a, counts), meanStops(b, counts)];
    const of = pass === 'beauty' ? {} : { of: pass };
    // Forecast from few pixels, light that is found by chance may be missing from both; shadows and occlusion are no such light.
    if (film !== null && pass === 'beauty') {
      // The film is of the whole region: held against marked pixels it would tell nothing.
      const missed =
        counts === null && missesLight(sumsOf(a, null), sumsOf(luminancePlane(film.region, 'beauty'), null));
      const sure = missed ? 'few' : sureOf(a, b, counts);
      if (sure === 'few')
        return { before: was, after: null, why: 'light found by chance: too few pixels to tell', ...of };
      if (sure === 'same') return { before: was, after: was, ...of };
    }
    return { before: was, after: is, ...of };
  },
};

function meanStops(plane: Float32Array, counts: Uint8Array | null): number {
  let [sum, n] = [0, 0];
  for (let i = 0; i < plane.length; i++) {
    if (counts !== null && !counts[i]) continue;
    sum += plane[i];
    n += 1;
  }
  return n > 0 ? stopsOf(sum / n) : BLACK_STOPS;
}

/** A change that is one, none beyond chance, or light that few pixels hold. */
function sureOf(a: Float32Array, b: Float32Array, counts: Uint8Array | null): 'changed' | 'same' | 'few' {
  const [first, second] = [sumsOf(a, counts), sumsOf(b, counts)];
  let [squares, down] = [0, 0];
  const steps = { squares: 0, n: 0 };
  for (let i = 0; i < a.length; i++) {
    if (counts !== null && !counts[i]) continue;
    const by = b[i] - a[i];
    squares += by ** 2;
    down += Math.min(0, by);
    if (i === 0 || (counts !== null && !counts[i - 1])) continue;
    steps.squares += (by - (b[i - 1] - a[i - 1])) ** 2 / 2;
    steps.n += 1;
  }
  if (isSureChange(first, second, { squares, down, steps })) return 'changed';
  return squares > 0 && (isHeldByFew(first, second) || isHeldByFew(second, first)) ? 'few' : 'same';
}
