/** A bound that lets the map move what it moves. */
import type { Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

export const setBound: Propose<ReliefCase> = ({ cause, material, proposed, document }) => {
  if (cause !== 'displacement.bounds-too-small') return null;
  return {
    id: 'bound',
    title: `Displacement bound of ${document.materials[material].name || material} to ${proposed} m`,
    change: { kind: 'values', values: { [`/materials/${material}/displacementBound`]: proposed } },
    note: 'A tenth more than the map reaches.',
    numbers: { bound: proposed },
  };
};
