/** The edges of the environment's image do not meet. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const environmentSeam: Cause<LightingCase> = {
  id: 'lighting.environment-seam',
  isIndependent: true,
  share: ({ kind }) => (kind === 'seam' ? 1 : null),
};
