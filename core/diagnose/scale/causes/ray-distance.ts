/** Rays end before what is in view. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const rayDistance: Cause<ScaleCase> = {
  id: 'scale.ray-distance',
  isUpstream: true,
  share: ({ kind }) => (kind === 'rays' ? 1 : null),
};
