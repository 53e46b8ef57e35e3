import { item, type Limit } from '../limit.ts';

export const uvSets: Limit = {
  id: 'uv-sets',
  title: 'Extra UV sets',
  run({ document, target }) {
    const { uvSets: most } = target.maps;
    if (most === null) return null;
    const values: Record<string, unknown> = {};
    const items = Object.entries(document.maps).flatMap(([id, map]) => {
      if (map.kind === 'shared' || map.uvSet < most) return [];
      values[`/maps/${id}/uvSet`] = 0;
      return [item(`/maps/${id}`, `reads UV set ${map.uvSet + 1}; the target has ${most}`)];
    });
    return items.length
      ? {
          fate: 'replaced',
          items,
          looks: 'Those maps use the first UV set: in other places, at another size.',
          values,
        }
      : null;
  },
};
