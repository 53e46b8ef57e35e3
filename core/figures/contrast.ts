/**
 * Local contrast: how far pixels differ from those around them, in stops, as the root mean square over the region of the
 * deviation inside squares of 7 × 7. What noise alone brings is taken off where its error is known. On the pass that shows
 * the change. Source of contrast as a deviation: Peli, "Contrast in complex images", 1990; taken of logarithms here.
 */
import { boxMean } from '../picture/measured.ts';
import type { Figure, Side } from './figure.ts';
import { brightPass, planeOf } from './planes.ts';
import { seenPasses } from './seen-in.ts';

const RADIUS = 3;
/** Luminance, or share, below which all is black to everybody. */
const BLACK = 1e-3;

export const contrast: Figure = {
  id: 'contrast',
  label: 'Local contrast',
  short: 'contrast',
  unit: 'stops',
  better: 'neither',
  change: 'difference',
  seen: 0.05,
  needs: (layout) => [...seenPasses(layout), 'error.beauty'],
  compare({ before, after, pass: seen }) {
    const pass = before.picture ? brightPass(before.picture, seen) : seen;
    const [was, is] = [before, after].map((side) => contrastOf(side, pass));
    return { before: was, after: is, ...(pass === 'beauty' ? {} : { of: pass }) };
  },
};

function contrastOf({ picture }: Side, pass: string): number | null {
  const plane = picture && planeOf(picture, pass);
  if (!plane) return null;
  const { width, height } = picture;
  const logs = Float64Array.from(plane, (y) => Math.log2(Math.max(0, y) + BLACK));
  const [means, squares] = [logs, logs.map((v) => v * v)].map((one) => boxMean(one, width, height, RADIUS));
  const error = pass === 'beauty' ? picture.channels.get('error.beauty') : undefined;
  let sum = 0;
  for (let i = 0; i < logs.length; i++) {
    const noise = error ? (error[i] / (Math.LN2 * (Math.max(0, plane[i]) + BLACK))) ** 2 : 0;
    const own = squares[i] - means[i] ** 2 - noise;
    if (own - own === 0) sum += own;
  }
  return Math.sqrt(Math.max(0, sum / Math.max(1, logs.length)));
}
