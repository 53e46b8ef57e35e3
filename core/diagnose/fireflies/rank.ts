/**
 * Remedies in the order they are to be tried: what leaves fewest fireflies, keeps the look, and costs least at equal
 * noise. All fireflies left weigh as much as four stops of change, which nobody would take for a cure, and a doubling
 * of the rays a tenth of that.
 */
import type { Effect, Remedy } from '../../contracts/finding.ts';
import { costAtEqualNoise } from '../../predict/equal-noise.ts';

/** Below this share nobody counts them. */
const ALL = 0.01;
export const STOP = 0.25;
const DOUBLING = 0.1;

export function hurtOf(effect: Effect): number {
  const { fireflies, look, stops } = effect;
  const share = fireflies && fireflies.before > 0 ? fireflies.after / fireflies.before : 1;
  const left = share <= ALL ? 0 : share;
  const change = Math.max(Math.abs(look?.stops ?? 0), Math.abs(stops));
  return left + STOP * change + DOUBLING * Math.log2(costAtEqualNoise(effect));
}

export const byHurt = (remedies: Remedy[]): Remedy[] =>
  [...remedies].sort((a, b) => hurtOf(a.predicted) - hurtOf(b.predicted));
