/** World positions have 32 bits, and the shot stands far from the origin. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const singlePrecision: Cause<ScaleCase> = {
  id: 'scale.single-precision',
  isIndependent: true,
  share: ({ kind }) => (kind === 'coarse' ? 1 : null),
};
