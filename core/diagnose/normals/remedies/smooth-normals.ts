/** The switch to the smooth normals that the mesh has. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { NormalsCase } from '../case.ts';

export const smoothNormals: Propose<NormalsCase> = (of) => {
  if (of.kind !== 'facets' || of.flat.length === 0) return null;
  return {
    id: 'smooth-normals',
    title: `Smooth normals of ${listed(of.flatNames)}`,
    change: { kind: 'values', values: Object.fromEntries(of.flat.map((id) => [`/objects/${id}/normals`, 'smooth'])) },
  };
};
