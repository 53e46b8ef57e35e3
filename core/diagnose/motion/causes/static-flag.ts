/** It has keys, and is marked static. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const staticFlag: Cause<MotionCase> = {
  id: 'motion.static-flag',
  isIndependent: true,
  share: ({ kind }) => (kind === 'still' ? 1 : null),
};
