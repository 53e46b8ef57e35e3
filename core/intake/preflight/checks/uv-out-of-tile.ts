import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count, plural } from '../tell.ts';

export const uvOutOfTile: Check = {
  id: 'uv-out-of-tile',
  group: 'surface',
  title: 'UVs outside the tile',
  why: 'A texture that does not repeat smears there; unpainted tiles render as missing.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    const values: Record<string, string> = {};
    for (const worn of scene.worn) {
      const { texture, objects, material } = worn;
      const { tiles } = scene.source.images[texture.image];
      if (texture.wrap === 'repeat' && tiles.length < 2) continue;
      const painted = new Set(tiles.map(({ number }) => number));
      for (const { node, poly } of objects) {
        const set = poly.uvs[texture.uvSet];
        if (!set) continue;
        let n = 0;
        for (let i = 0; i + 1 < set.values.length; i += 2) {
          const [u, v] = [set.values[i], set.values[i + 1]];
          // Tiles are numbered 1001 + u + 10 v; an edge belongs to both its tiles.
          const inside = tiles.length > 1 ? painted.has(1001 + Math.ceil(u - 1) + 10 * Math.ceil(v - 1)) || painted.has(1001 + Math.floor(u) + 10 * Math.floor(v)) : u >= -1e-4 && u <= 1.0001 && v >= -1e-4 && v <= 1.0001; // prettier-ignore
          if (!inside) n += 1;
        }
        if (!n) continue;
        if (tiles.length < 2) for (const map of scene.documentMapsOf(worn)) values[`/maps/${map}/wrap`] = 'repeat';
        offenders.set(node.path, {
          object: node.path,
          detail: `${plural(n, 'UV')} outside the ${tiles.length > 1 ? 'painted tiles' : 'tile'} of "${material}"`,
          count: n,
        });
      }
    }
    return {
      expected: 'inside',
      found: count([...offenders.values()], 'object'),
      offenders: [...offenders.values()],
      repair: setValues('Repeat the image', scene.document, values),
    };
  },
};
