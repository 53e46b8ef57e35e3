import { item, type Limit } from '../limit.ts';
import { bakeSize } from '../bake-size.ts';
import { texelsNeeded } from '../texels-needed.ts';

export const mapsBaked: Limit = {
  id: 'maps-baked',
  title: 'Procedural maps that are baked',
  run({ document, scene, target }) {
    const baked = target.maps.baked as string[];
    const ids = Object.entries(document.maps).flatMap(([id, { kind }]) => (baked.includes(kind) ? [id] : []));
    const needed = texelsNeeded(scene, document, ids);
    const texels: Record<string, number> = {};
    const items = ids.flatMap((id) => {
      const most = needed.get(id);
      if (most === undefined) return [];
      const has = bakeSize(target, 'final', id);
      const wanted = Math.min(target.bake.most, 2 ** Math.ceil(Math.log2(Math.max(1, most))));
      texels[id] = wanted;
      const why =
        most > has.texels
          ? `${(most / has.texels).toPrecision(2)} pixels per texel: it comes out blurred`
          : `${(has.texels / Math.max(1, most)).toPrecision(2)} texels per pixel`;
      return [item(`/maps/${id}`, `${document.maps[id].kind}, ${has.texels} texels per side in the final (${has.from}): ${why}; ${wanted} are needed`)]; // prettier-ignore
    });
    return items.length
      ? {
          fate: 'baked',
          items,
          looks: 'Detail finer than a texel is lost; object-space maps become one slice over the UVs.',
          repair: {
            label: 'Bake them here at the size the camera needs',
            patch: [],
            work: { kind: 'bake maps', texels },
          },
        }
      : null;
  },
};
