/** The overall limit ends paths before the kind's own limit does: raising that one changes little. */
import type { Cause } from '../../family.ts';
import type { LimitCase } from '../case.ts';

export const overallHidesOther: Cause<LimitCase> = {
  id: 'limits.overall-hides-other',
  isUpstream: true,
  share: ({ isHidden, through: { now, alone, enough } }) =>
    isHidden && enough > now ? (enough - Math.max(now, alone)) / (enough - now) : null,
};
