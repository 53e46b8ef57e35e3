/** A change held against what it replaces at equal noise: variance falls as one over the samples. */
import type { Effect } from '../contracts/figures.ts';
import { changeOf } from '../figures/effect.ts';

/** Samples with the change that are as clean as one without: 0.25 where it has half the noise. */
export function samplesAtEqualNoise(effect: Effect): number {
  const noise = changeOf(effect, 'noise');
  return noise !== null && noise > 0 ? noise ** 2 : 1;
}

/** Rays with the change over those without, where both are equally clean. */
export const costAtEqualNoise = (effect: Effect): number =>
  (changeOf(effect, 'rays') ?? 1) * samplesAtEqualNoise(effect);
