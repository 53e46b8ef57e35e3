/** The bump map as displacement. */
import type { Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

export const raiseBump: Propose<ReliefCase> = ({ cause, id, name, material, document, study, proposed }) => {
  if (cause !== 'displacement.bump-in-its-place') return null;
  const { bumpMap, bumpDepth } = document.materials[material];
  const { level } = document.objects[id].subdivision;
  return {
    id: 'raise-bump',
    title: `Displace ${name} by its bump map`,
    change: {
      kind: 'values',
      values: {
        [`/materials/${material}/displacementMap`]: bumpMap,
        [`/materials/${material}/displacementScale`]: bumpDepth,
        [`/materials/${material}/displacementRest`]: study.map.rest,
        [`/materials/${material}/bumpMap`]: null,
        ...(level < proposed ? { [`/objects/${id}/subdivision/level`]: proposed } : {}),
      },
    },
    note: 'Silhouettes and shadows get the shape; the mesh has to be as fine as the map.',
  };
};
