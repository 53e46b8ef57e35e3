/** Rays as long as what is in view is far, with room; or of any length, as a view to the horizon needs. */
import { metres } from '../../../intake/preflight/tell.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { ScaleCase } from '../case.ts';

/** Beyond the farthest surface. */
const ROOM = 1.25;

export const farther: Propose<ScaleCase> = (of) => {
  if (of.kind !== 'rays') return null;
  const any: Proposal = {
    id: 'any',
    title: 'Rays of any length',
    change: { kind: 'values', values: { '/rayDistance': null } },
  };
  if (of.farthest === null) return any;
  const enough = +(of.farthest * ROOM).toPrecision(2);
  return [
    { id: 'enough', title: `Rays of ${metres(enough)}, past everything in view`, change: { kind: 'values', values: { '/rayDistance': enough } } }, // prettier-ignore
    any,
  ];
};
