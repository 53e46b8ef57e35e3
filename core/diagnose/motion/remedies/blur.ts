/** A shutter that is open for half a frame, and asked as often as a straight way needs. */
import type { Propose } from '../../family.ts';
import type { MotionCase } from '../case.ts';

/** 180 degrees of a film camera's disc. */
const HALF = 0.5;

export const blur: Propose<MotionCase> = (of) => {
  if (of.kind !== 'sharp') return null;
  const shutter = of.motion.shutter > 0 ? of.motion.shutter : HALF;
  const samples = Math.max(2, of.motion.samples);
  return {
    id: 'blur',
    title: `Open the shutter for ${shutter} of a frame, at ${samples} motion samples`,
    change: { kind: 'values', values: { '/motion/shutter': shutter, '/motion/samples': samples } },
    note: 'Sharp frames may be intended, for blur added in comp from the motion pass.',
  };
};
