import type { Sheet } from '../../document/schema.ts';

/** The part of a sheet that the scene itself depends on. */
export type SceneSheet = Pick<
  Sheet,
  'width' | 'height' | 'motion' | 'precision' | 'neutral' | 'passes' | 'mostSubdivision'
>;
