import type { Cause } from '../../family.ts';
import type { Kind, LimitCase } from '../case.ts';

/** A kind's own limit: it explains what comes back when it is raised alone. */
export const byOwnLimit = (kind: Kind): Cause<LimitCase> => ({
  id: `limits.${kind}`,
  isUpstream: true,
  share({ kind: own, through: { now, alone, enough } }) {
    if (own !== kind) return null;
    return enough > now ? Math.max(0.01, (alone - now) / (enough - now)) : 1;
  },
});
