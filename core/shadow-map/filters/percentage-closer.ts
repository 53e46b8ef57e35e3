/** The share of depths that pass. Reeves, Salesin & Cook, "Rendering Antialiased Shadows with Depth Maps", SIGGRAPH 1987. */
import type { ShadowFilter } from './filter.ts';

export const definition: ShadowFilter = {
  id: 'percentage-closer',
  isWide: true,
  leaks: false,
  isLinear: false,
  light({ count, depths, weights }, depth) {
    let sum = 0;
    for (let k = 0; k < count; k++) if (depth <= depths[k]) sum += weights[k];
    return Math.min(1, sum);
  },
};
