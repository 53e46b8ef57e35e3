/** The near plane cuts through what is seen. */
import type { Cause } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

export const cameraNear: Cause<ScaleCase> = {
  id: 'scale.camera-near',
  isUpstream: true,
  share: ({ kind }) => (kind === 'near' ? 1 : null),
};
