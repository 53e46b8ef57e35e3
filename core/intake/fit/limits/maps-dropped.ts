import { MAP_SLOTS } from '../../../document/check-references.ts';
import { item, type Limit } from '../limit.ts';

export const mapsDropped: Limit = {
  id: 'maps-dropped',
  title: 'Procedural maps left out',
  run({ document, target }) {
    const dropped = target.maps.dropped as string[];
    const items = [];
    const values: Record<string, unknown> = {};
    const texels: Record<string, number> = {};
    for (const [id, material] of Object.entries(document.materials))
      for (const slot of MAP_SLOTS) {
        const map = material[slot];
        if (map === null || !dropped.includes(document.maps[map].kind)) continue;
        items.push(item(`/materials/${id}`, `${slot.replace('Map', '')} map "${map}" is ${document.maps[map].kind}`));
        values[`/materials/${id}/${slot}`] = null;
        texels[map] = target.bake.final;
      }
    if (items.length === 0) return null;
    return {
      fate: 'dropped',
      items,
      looks: 'Those surfaces have one flat value instead of the map.',
      values,
      repair: { label: 'Bake them to images first', patch: [], work: { kind: 'bake maps', texels } },
    };
  },
};
