/** A step put in the place of by an exponential, which may be averaged before it is compared. Annen, Mertens, Seidel, Flerackers & Kautz, "Exponential Shadow Maps", Graphics Interface 2008. */
import type { ShadowFilter } from './filter.ts';

export const definition: ShadowFilter = {
  id: 'exponential',
  isWide: true,
  leaks: true,
  isLinear: true,
  light({ count, depths, weights }, depth, { exponent }) {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += weights[k] * Math.exp(exponent * (depths[k] - depth));
    return Math.min(1, sum);
  },
};
