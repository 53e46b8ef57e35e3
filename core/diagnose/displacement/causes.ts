/** What is wrong with a relief is read off it: each case is of one cause. */
import type { CauseId } from '../catalogue.ts';
import type { Cause } from '../family.ts';
import type { ReliefCase } from './case.ts';

const IDS: CauseId[] = ['displacement.scale-too-large', 'displacement.bounds-too-small', 'displacement.rest-level', 'displacement.self-intersecting', 'displacement.scale-too-small', 'displacement.clipped-range', 'displacement.too-little-geometry', 'displacement.too-much-geometry', 'displacement.bump-in-its-place']; // prettier-ignore

export const causes: Cause<ReliefCase>[] = IDS.map((id) => ({
  id,
  isIndependent: true,
  share: ({ cause }) => (cause === id ? 1 : null),
}));
