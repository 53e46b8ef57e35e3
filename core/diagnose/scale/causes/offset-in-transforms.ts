/** The placements hold the distance: meshes stand about their own origins, and the whole can be moved back. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const offsetInTransforms: Cause<ScaleCase> = {
  id: 'scale.offset-in-transforms',
  isIndependent: true,
  share: (of) => (of.kind === 'coarse' && of.offset.transforms > of.offset.vertices ? 0.9 : null),
};
