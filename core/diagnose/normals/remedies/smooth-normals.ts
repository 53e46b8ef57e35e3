/** The switch to the smooth normals that the mesh has. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { FacetCase } from '../case.ts';

export const smoothNormals: Propose<FacetCase> = ({ flat, flatNames }) =>
  flat.length === 0
    ? null
    : {
        id: 'smooth-normals',
        title: `Smooth normals of ${listed(flatNames)}`,
        change: { kind: 'values', values: Object.fromEntries(flat.map((id) => [`/objects/${id}/normals`, 'smooth'])) },
      };
