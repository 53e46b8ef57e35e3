/** What moves while the shutter is open is met in another place by each sample. It is proved by standing still, which is no remedy. */
import type { Suspicion } from './suspect.ts';

export const motionBlur: Suspicion = ({ scene }) =>
  scene.slices > 1 ? { id: 'motion-blur', told: 'motion blur', values: { '/motion/samples': 1 }, remedy: null } : null;
