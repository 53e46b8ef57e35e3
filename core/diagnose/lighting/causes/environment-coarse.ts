/** The environment has fewer texels than the frame has pixels, where it is mirrored. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const environmentCoarse: Cause<LightingCase> = {
  id: 'lighting.environment-coarse',
  share: ({ kind }) => (kind === 'coarse' ? 1 : null),
};
