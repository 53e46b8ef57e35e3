import { CAUTION, type Check, type Offender } from '../check.ts';
import { count, plural } from '../tell.ts';
import { tileNumber } from '../../../textures/tiles.ts';

export const tileMissing: Check = {
  id: 'tile-missing',
  group: 'surface',
  title: 'UVs on missing tiles',
  why: 'Where an image has no tile it is black, and a displacement map is at its lowest.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    for (const { texture, objects } of scene.worn) {
      const { tiles, path } = scene.source.images[texture.image];
      if (tiles.length < 2) continue;
      const there = new Set(tiles.map(({ number }) => number));
      for (const { node, poly } of objects) {
        const missing = lacking(poly.uvs[texture.uvSet]?.values ?? [], there);
        if (missing.size === 0) continue;
        const n = [...missing.values()].reduce((sum, own) => sum + own, 0);
        const detail = `${plural(n, 'UV')} on ${[...missing.keys()].sort().join(', ')} of ${path}`;
        offenders.set(node.path, { object: node.path, detail, count: n });
      }
    }
    const all = [...offenders.values()];
    return { expected: 'a tile wherever there are UVs', found: count(all, 'object'), offenders: all };
  },
};

/** UVs by the tile that they need and that is not there; an edge belongs to the tiles on both of its sides. */
function lacking(uvs: ArrayLike<number>, there: ReadonlySet<number>): Map<number, number> {
  const missing = new Map<number, number>();
  for (let i = 0; i + 1 < uvs.length; i += 2) {
    const [u, v] = [uvs[i], uvs[i + 1]];
    const sides = [u, Math.ceil(u - 1)].flatMap((left) => [v, Math.ceil(v - 1)].map((low) => tileNumber(left, low)));
    if (sides.some((tile) => there.has(tile))) continue;
    missing.set(sides[0], (missing.get(sides[0]) ?? 0) + 1);
  }
  return missing;
}
