import { overlaps } from '../uv-overlaps.ts';
import { CAUTION, type Check, type Offender } from '../check.ts';
import { count, plural } from '../tell.ts';

export const uvOverlap: Check = {
  id: 'uv-overlap',
  group: 'surface',
  title: 'Overlapping UVs',
  why: 'What is painted for one island shows on the other; bakes overwrite each other there. Islands stacked on purpose lie on each other as a whole.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    for (const { texture, objects } of scene.worn)
      for (const { node, poly } of objects) {
        const set = poly.uvs[texture.uvSet];
        if (!set || offenders.has(node.path)) continue;
        const found = overlaps(poly, set);
        if (found.length === 0) continue;
        const [{ share, at }] = found;
        const place = at.map((value) => value.toFixed(2)).join(', ');
        offenders.set(node.path, {
          object: node.path,
          detail: `${plural(found.length, 'pair')} of islands; at UV ${place} one covers ${Math.round(100 * share)} % of the other`,
          count: found.length,
        });
      }
    const all = [...offenders.values()];
    return { expected: 'islands apart, or one on the other as a whole', found: count(all, 'object'), offenders: all };
  },
};
