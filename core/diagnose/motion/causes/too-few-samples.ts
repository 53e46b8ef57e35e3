/** A turn is rendered as straight lines between too few places in the shutter. */
import type { Cause } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const tooFewSamples: Cause<MotionCase> = {
  id: 'motion.too-few-samples',
  isIndependent: true,
  share: ({ kind }) => (kind === 'arc' ? 1 : null),
};
