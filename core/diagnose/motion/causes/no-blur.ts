/** What moves is rendered at one moment: the shutter is shut, or asked once. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const noBlur: Cause<MotionCase> = {
  id: 'motion.no-blur',
  isIndependent: true,
  share: ({ kind }) => (kind === 'sharp' ? 1 : null),
};
