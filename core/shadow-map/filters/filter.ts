/** What a filter of depth maps is: how much light it takes to arrive, from the depths around a place. */
import type { PreviewShadowsSpec } from '../../document/schema.ts';

/** Stored depths of the texels that a square around a place touches, 0 at a map's near plane to 1 at its far one. */
export interface Footprint {
  count: number;
  depths: Float64Array;
  /** Share of the square that a texel covers; they add up to 1. */
  weights: Float64Array;
}

export interface ShadowFilter {
  id: PreviewShadowsSpec['filter'];
  /** Takes in what is around the texel; without, the one alone is looked up. */
  isWide: boolean;
  /** Shows light inside of shadows, by what its bound or its mean leaves open. */
  leaks: boolean;
  /** Depths of a lamp's map grow with the distance; otherwise with its inverse, as a depth buffer has them. */
  isLinear: boolean;
  /**
   * Share of the light that arrives, 0–1.
   * @param depth of the place, the bias taken off
   */
  light(footprint: Footprint, depth: number, spec: PreviewShadowsSpec): number;
}
