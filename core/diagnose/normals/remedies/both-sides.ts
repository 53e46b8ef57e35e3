/** Both sides there; or the faces turned outwards, in a new file. */
import { mendMeshes } from '../../../intake/repairs/offer.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { NormalsCase } from '../case.ts';

export const bothSides: Propose<NormalsCase> = (of) => {
  if (of.kind !== 'turned') return null;
  const { document, id, name, why } = of;
  const both: Proposal = {
    id: 'both',
    title: `Render both sides of ${name}`,
    change: { kind: 'values', values: { [`/objects/${id}/facing`]: 'both' } },
  };
  const { mesh } = document.objects[id];
  const repair = why === 'one-sided' || mesh === null ? null : mendMeshes(`Turn the faces of ${name} outwards`, document, 'turn outwards', [mesh]); // prettier-ignore
  if (!repair) return both;
  const turn: Proposal = {
    id: 'turn',
    title: repair.label,
    change: { kind: 'files', patch: repair.patch, work: repair.work },
    note: 'In a new file; every object that uses the mesh gets it.',
  };
  return [both, turn];
};
