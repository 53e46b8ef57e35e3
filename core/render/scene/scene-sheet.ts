import type { Sheet } from '../../document/schema.ts';

/** The part of a sheet that the scene itself depends on. */
export type SceneSheet = Pick<
  Sheet,
  'width' | 'height' | 'motion' | 'precision' | 'neutral' | 'lines' | 'passes' | 'mostSubdivision'
>;

/** Samples, limits and clamps are no part of a scene: renders that differ in them share one. */
export const sceneSheetOf = ({ width, height, motion, precision, neutral, lines, passes, mostSubdivision }: SceneSheet): SceneSheet =>
  ({ width, height, motion, precision, neutral, lines, passes, mostSubdivision }); // prettier-ignore
