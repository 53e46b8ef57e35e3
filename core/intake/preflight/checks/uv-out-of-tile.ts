import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count, plural } from '../tell.ts';

export const uvOutOfTile: Check = {
  id: 'uv-out-of-tile',
  group: 'surface',
  title: 'UVs outside the tile',
  why: 'A texture that does not repeat smears there.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    const values: Record<string, string> = {};
    for (const worn of scene.worn) {
      const { texture, objects, material } = worn;
      if (texture.wrap === 'repeat' || scene.source.images[texture.image].tiles.length > 1) continue;
      for (const { node, poly } of objects) {
        const set = poly.uvs[texture.uvSet];
        if (!set) continue;
        let n = 0;
        for (const value of set.values.keys()) if (value % 2 === 0 && !isInside(set.values, value)) n += 1;
        if (!n) continue;
        for (const map of scene.documentMapsOf(worn)) values[`/maps/${map}/wrap`] = 'repeat';
        offenders.set(node.path, {
          object: node.path,
          detail: `${plural(n, 'UV')} outside the tile of "${material}"`,
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

/** Within what is lost to rounding. */
const NEAR = 1e-4;
const isInside = (uvs: Float32Array, at: number): boolean =>
  [uvs[at], uvs[at + 1]].every((value) => value >= -NEAR && value <= 1 + NEAR);
