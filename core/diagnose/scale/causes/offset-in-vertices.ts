/** The vertices hold the distance: moving the shot does not bring them nearer to their own origins. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const offsetInVertices: Cause<ScaleCase> = {
  id: 'scale.offset-in-vertices',
  isIndependent: true,
  share: (of) => (of.kind === 'coarse' && of.offset.vertices >= of.offset.transforms ? 0.9 : null),
};
