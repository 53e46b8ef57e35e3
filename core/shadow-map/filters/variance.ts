/**
 * A bound on the light from mean and variance of the depths, by Chebyshev's inequality of one side. Donnelly & Lauritzen,
 * "Variance Shadow Maps", I3D 2006, equations 4 and 5. Where depths of two casters meet under one filter the variance is large
 * and the bound open: that is the leak. What of it is cut away: Lauritzen, "Summed-Area Variance Shadow Maps", GPU Gems 3, 2007.
 */
import type { ShadowFilter } from './filter.ts';

/** Variance of what is flat: what rounding leaves of it would be noise. */
const LEAST = 1e-10;

export const definition: ShadowFilter = {
  id: 'variance',
  isWide: true,
  leaks: true,
  isLinear: true,
  light({ count, depths, weights }, depth, { leakCut }) {
    let [mean, square] = [0, 0];
    for (let k = 0; k < count; k++) {
      mean += weights[k] * depths[k];
      square += weights[k] * depths[k] * depths[k];
    }
    if (depth <= mean) return 1;
    const most = chebyshev(Math.max(LEAST, square - mean * mean), depth - mean);
    return Math.max(0, (most - leakCut) / (1 - leakCut));
  },
};

/** The greatest share of a distribution that lies so far beyond its mean or further. */
export const chebyshev = (variance: number, beyond: number): number => variance / (variance + beyond * beyond);
