/** The scale, or the rest level, that the map itself and the object ask for. */
import type { CauseId } from '../../catalogue.ts';
import type { Proposal, Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

const BY_SCALE: CauseId[] = ['displacement.scale-too-large', 'displacement.scale-too-small', 'displacement.self-intersecting']; // prettier-ignore

export const setRelief: Propose<ReliefCase> = ({ cause, material, proposed, document, study }): Proposal | null => {
  const name = document.materials[material].name || material;
  if (BY_SCALE.includes(cause)) {
    const millimetres = 1000 * Math.abs(proposed) * (study.map.high - study.map.low);
    return {
      id: 'scale',
      title: `Displacement scale of ${name} to ${proposed} m`,
      change: { kind: 'values', values: { [`/materials/${material}/displacementScale`]: proposed } },
      note: `${+millimetres.toPrecision(2)} mm from the lowest to the highest, of an object of ${+study.size.toPrecision(2)} m.`,
      numbers: { scale: proposed },
    };
  }
  if (cause !== 'displacement.rest-level') return null;
  return {
    id: 'rest',
    title: `Rest level of ${name} to ${proposed}`,
    change: { kind: 'values', values: { [`/materials/${material}/displacementRest`]: proposed } },
    note: 'Flat areas of the map stay on the mesh.',
    numbers: { rest: proposed },
  };
};
