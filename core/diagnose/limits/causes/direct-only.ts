/** Nothing bounces: light is seen where it arrives first, and nowhere else. */
import type { Cause } from '../../family.ts';
import type { LimitCase } from '../case.ts';

export const directOnly: Cause<LimitCase> = {
  id: 'lighting.direct-only',
  isUpstream: true,
  share: ({ kind, now }) => (kind === 'diffuse' && now.diffuse <= 1 ? 0.5 : null),
};
