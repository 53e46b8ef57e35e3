/** A change held against what it replaces at equal noise: variance falls as one over the samples. */
import type { Effect } from '../contracts/finding.ts';

type Noise = Pick<Effect, 'grainBefore' | 'grainAfter'>;

/** Samples with the change that are as clean as one without: 0.25 where it has half the noise. */
export const samplesAtEqualNoise = ({ grainBefore, grainAfter }: Noise): number =>
  grainBefore > 0 && grainAfter > 0 ? (grainAfter / grainBefore) ** 2 : 1;

/** Rays with the change over those without, where both are equally clean. */
export const costAtEqualNoise = (effect: Noise & Pick<Effect, 'cost'>): number =>
  effect.cost * samplesAtEqualNoise(effect);
