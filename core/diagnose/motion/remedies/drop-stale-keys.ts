/** Keys that hold the mesh of another frame left out, until the cache is written anew; a cache that never moves is no deformation. */
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { MotionCase } from '../case.ts';

export const dropStaleKeys: Propose<MotionCase> = (of) => {
  if (of.kind !== 'stale') return null;
  const frames = `frame${of.frames.length === 1 ? '' : 's'} ${listed(of.frames.map(String))}`;
  const again: Proposal = { id: 'write-again', title: of.isWhole ? 'Rewrite the cache' : `Write ${frames} of the cache again`, change: null, note: 'In the program it came from.' }; // prettier-ignore
  const drop: Proposal = {
    id: 'drop-stale',
    title: of.isWhole ? `Let ${of.name} move by its transform alone` : `Blend over ${frames}`,
    change: { kind: 'values', values: of.values },
    note: of.isWhole ? 'It looks the same, and is stored once instead of once per key.' : 'These keys are dropped: the meshes around them are blended.', // prettier-ignore
  };
  return of.isWhole ? [again, drop] : [drop, again];
};
