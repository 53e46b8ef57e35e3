/** The far plane ends before what stands in view. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const cameraFar: Cause<ScaleCase> = {
  id: 'scale.camera-far',
  isUpstream: true,
  share: ({ kind }) => (kind === 'far' ? 1 : null),
};
