/** What the page is told of a light's shadows by depth maps, beside those that are there. */
import type { PreviewShadowsSpec } from '../document/schema.ts';
import type { FittedShadows } from '../shadow-map/fit.ts';
import type { SimulatedShadows } from '../shadow-map/simulate.ts';

export interface ToldMaps {
  light: { id: string; name: string };
  /** Lights that have maps, that which brings most first. */
  lights: { id: string; name: string }[];
  spec: PreviewShadowsSpec;
  /** Blocks over the frame, row by row; its pixels by side of a block. */
  width: number;
  height: number;
  /** By block: cosine at which the light falls, 0 where it does not or no surface is seen. */
  facing: Float32Array;
  /** Share of the light that arrives: by the maps, and in truth. */
  shown: Float32Array;
  lit: Float32Array;
  /** Bits of `shadow-map/reasons.ts`. */
  why: Uint16Array;
  told: Pick<SimulatedShadows, 'faced' | 'wrong' | 'missing' | 'false' | 'reasons' | 'together' | 'texels' | 'splits' | 'traced'>; // prettier-ignore
  /** Null where the light shines on nothing that is seen. */
  fitted: FittedShadows | null;
}
