/** What about occlusion makes a pass that tells little, or the wrong thing; told by the trace, whatever lights the shot has. */
import type { Cause } from '../../family.ts';
import { CAUSE_OF_FAULT, type OcclusionCase, type OcclusionFault } from '../case.ts';

export const byFault: readonly Cause<OcclusionCase>[] = (Object.keys(CAUSE_OF_FAULT) as OcclusionFault[]).map(
  (fault) => ({
    id: CAUSE_OF_FAULT[fault],
    isIndependent: true,
    share: ({ kind }) => (kind === fault ? 1 : null),
  }),
);
