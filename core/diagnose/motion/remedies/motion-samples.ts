/** As many places in the shutter as the motion needs: more for an arc, fewer where nothing moves. */
import type { Propose } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const motionSamples: Propose<MotionCase> = (of) => {
  if (of.kind === 'arc')
    return of.enough === null
      ? { id: 'keys', title: `Give ${of.name} keys closer together, or a shorter shutter`, change: null }
      : { id: 'samples', title: `${of.enough} motion samples`, change: { kind: 'values', values: { '/motion/samples': of.enough } } }; // prettier-ignore
  return of.kind === 'idle'
    ? { id: 'samples', title: '2 motion samples', change: { kind: 'values', values: { '/motion/samples': 2 } } }
    : null;
};
