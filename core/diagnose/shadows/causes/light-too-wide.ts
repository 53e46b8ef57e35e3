/** The light is so wide that its shadows dissolve. */
import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

export const lightTooWide: Cause<ShadowCase> = {
  id: 'shadows.light-too-wide',
  isUpstream: true,
  share: ({ kind }) => (kind === 'wide' ? 1 : null),
};
