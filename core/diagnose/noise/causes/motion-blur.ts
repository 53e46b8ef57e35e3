/** What moves while the shutter is open is met in another place by each sample. It is proved by standing still, which is no remedy. */
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

export const motionBlur: Cause<NoiseCase> = {
  id: 'noise.motion-blur',
  without: (of) => (of.kind === 'over' && of.input.scene.slices > 1 ? { '/motion/samples': 1 } : null),
};
