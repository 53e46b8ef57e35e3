/** One thing that is wrong with a body of glass, which is all of it. */
import type { Cause } from '../../family.ts';
import { CAUSE_OF_BODY } from '../bodies.ts';
import type { GlassCase } from '../definition.ts';

export const byBody: Cause<GlassCase>[] = Object.entries(CAUSE_OF_BODY).map(([fault, id]) => ({
  id,
  isUpstream: true,
  share: (of) => (of.kind === 'body' && of.fault === fault ? 1 : null),
}));
