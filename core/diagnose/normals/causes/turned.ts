/** Faces turn away from who looks at them, and their objects have but one side. */
import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { NormalsCase } from '../case.ts';
import type { TurnedCase } from '../facing.ts';

const CAUSES: Record<TurnedCase['why'], CauseId> = {
  'inside-out': 'normals.reversed',
  mixed: 'normals.mixed-winding',
  'one-sided': 'normals.one-sided',
};

export const turned: Cause<NormalsCase>[] = Object.entries(CAUSES).map(([why, id]) => ({
  id,
  isUpstream: true,
  share: (of) =>
    (of.kind === 'turned' && of.why === why) || (of.kind === 'against' && of.isInsideOut && why === 'inside-out') ? 1 : null, // prettier-ignore
}));
