/** The edges of the environment's image do not meet: left and right, or those that are one point at a pole. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const environmentSeam: Cause<LightingCase> = {
  id: 'lighting.environment-seam',
  isIndependent: true,
  share: ({ kind }) => (kind === 'seam' || kind === 'pole' ? 1 : null),
};
