/** A scale that went into the vertices of one of several like objects, and not into the maps that it wears. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const halfBakedTransform: Cause<MotionCase> = {
  id: 'motion.half-baked-transform',
  isIndependent: true,
  share: ({ kind }) => (kind === 'baked' ? 1 : null),
};
