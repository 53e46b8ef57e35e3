/** Places in the shutter are asked for where nothing is seen to move. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const samplesWithoutMotion: Cause<MotionCase> = {
  id: 'motion.samples-without-motion',
  isIndependent: true,
  share: ({ kind }) => (kind === 'idle' ? 1 : null),
};
