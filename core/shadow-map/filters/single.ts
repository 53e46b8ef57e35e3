/** One depth compared. Williams, "Casting Curved Shadows on Curved Surfaces", SIGGRAPH 1978. */
import type { ShadowFilter } from './filter.ts';

export const definition: ShadowFilter = {
  id: 'single',
  isWide: false,
  leaks: false,
  isLinear: false,
  light: ({ depths }, depth) => (depth <= depths[0] ? 1 : 0),
};
