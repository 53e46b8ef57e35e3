/** Frames of a cache hold the mesh of another frame. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const staleCache: Cause<MotionCase> = {
  id: 'motion.stale-cache',
  isIndependent: true,
  share: ({ kind }) => (kind === 'stale' ? 1 : null),
};
