import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { Dead } from '../dead-lights.ts';
import type { LightingCase } from '../definition.ts';

const CAUSES: Record<Exclude<Dead, 'linked-away'>, CauseId> = {
  'turned-away': 'lighting.light-turned-away',
  'out-of-reach': 'lighting.light-out-of-reach',
  'inside-object': 'lighting.light-inside-object',
  blocked: 'shadows.blocked-elsewhere',
};

/** One light that lights nothing, for a reason that is all of it. */
export const deadBy: Cause<LightingCase>[] = Object.entries(CAUSES).map(([why, id]) => ({
  id,
  isUpstream: true,
  share: (of) => (of.kind === 'dead' && of.why === why ? 1 : null),
}));
