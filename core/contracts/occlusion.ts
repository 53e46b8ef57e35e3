/** What the page is told of ambient occlusion: how far every ray of a grid of places goes, so that any distance is drawn at once. */
import type { OcclusionCurve } from '../occlusion/curve.ts';
import type { OcclusionRule, TracedDistances } from '../occlusion/distances.ts';

export interface ToldOcclusion
  extends Pick<TracedDistances, 'rays' | 'first' | 'solid' | 'left' | 'layers'>, OcclusionRule {
  /** Blocks over the frame, and the block of each place. */
  width: number;
  height: number;
  cells: Int32Array;
  /** Metres as the sheet has it; null: any. */
  distance: number | null;
  curve: OcclusionCurve;
}
