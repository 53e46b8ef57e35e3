/** The least level of subdivision that carries the map; where the sheet holds levels back, it is let go. */
import type { Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

export const setLevel: Propose<ReliefCase> = ({ cause, id, name, proposed, most, study, document }) => {
  if (cause !== 'displacement.too-little-geometry' && cause !== 'displacement.too-much-geometry') return null;
  const { triangles, bytes, carried } = study.levels[proposed];
  const isHeld = most !== null && most < proposed;
  const own = document.objects[id].subdivision.level;
  const values = {
    ...(own !== proposed && (cause === 'displacement.too-much-geometry' || own < proposed) ? { [`/objects/${id}/subdivision/level`]: proposed } : {}),
    ...(isHeld ? { '/mostSubdivision': null } : {}),
  }; // prettier-ignore
  return {
    id: 'level',
    title: `Subdivide ${name} ${proposed} times${isHeld ? ', and let the sheet have it' : ''}`,
    change: { kind: 'values', values },
    note: `${triangles.toLocaleString('en')} triangles, about ${Math.ceil(bytes / 1e6).toLocaleString('en')} MB while they are made; ${Math.round(100 * (carried ?? 1))} % of the relief is carried.`,
    numbers: { level: proposed },
  };
};
