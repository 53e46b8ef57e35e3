/** Limits far above what the light uses. */
import type { Cause } from '../../family.ts';
import type { AnyLimitCase } from '../definition.ts';

export const wastedDepth: Cause<AnyLimitCase> = {
  id: 'limits.wasted-depth',
  share: ({ kind }) => (kind === 'waste' ? 1 : null),
};
