/**
 * What the camera's near and far planes cut off. A plane that takes a whole object away may be meant, as one that opens a wall
 * is; one that cuts through what is still seen is not.
 */
import type { ShotDocument } from '../../document/schema.ts';
import { objectNames } from '../../document/object-names.ts';
import { depthOf } from '../../data/aim.ts';
import { cornerOf, maskOfBlocks, type GridPlace } from '../../place/grid.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { IS_FLOOR, settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';

export interface ClipCase extends Case {
  kind: 'near' | 'far';
  document: ShotDocument;
  objects: string[];
  /** Metres along the camera's axis: the plane, and what it cuts that is nearest or farthest; null: it goes on to the horizon. */
  plane: number;
  reaches: number | null;
  /** Share of the picture. */
  share: number;
}

/** Places that are looked at, about, and share of them that must be cut. */
const PLACES = 6000;
const LEAST = 0.0015;

export function clipCases(input: RenderInput): ClipCase[] {
  const { scene, document, sheet, picture } = input;
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const own = walk.clip;
  if (own.near <= 0 && own.far === Infinity) return [];
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / PLACES)));
  const cuts: Record<ClipCase['kind'], GridPlace[]> = { near: [], far: [] };
  const kept = new Set<number>();
  let looked = 0;
  for (let y = step >> 1; y < picture.height; y += step)
    for (let x = step >> 1; x < picture.width; x += step) {
      looked += 1;
      const seen = walk.surfaceAt(x, y);
      if (seen) kept.add(seen.object);
      const nearer = own.near > 0 ? walk.surfaceAt(x, y, { near: 0, far: own.near }) : null;
      if (nearer) cuts.near.push({ x, y, place: nearer });
      const farther = seen || own.far === Infinity ? null : walk.surfaceAt(x, y, { near: own.near, far: Infinity });
      if (farther) cuts.far.push({ x, y, place: farther });
    }
  const names = objectNames(document);
  return (['near', 'far'] as const).flatMap((kind): ClipCase[] => {
    // A near plane opens a wall by taking all of it.
    const cut = cuts[kind].filter(({ place }) => kind === 'far' || kept.has(place.object));
    if (cut.length < Math.max(2, LEAST * looked)) return [];
    const mask = maskOfBlocks(picture, step, cut.map((at) => cornerOf(at, step))); // prettier-ignore
    const depths = cut.map(({ place }) => depthOf(document.cameras[document.camera].transform, place.point));
    const isEndless = cut.some(({ place }) => (scene.instanceFlags[place.instance] & IS_FLOOR) !== 0);
    return [
      {
        key: `scale.camera-${kind}`,
        kind,
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['beauty', 'depth'],
        document,
        objects: [...new Set(cut.map(({ place }) => names[place.object]))],
        plane: own[kind],
        reaches: kind === 'near' ? Math.min(...depths) : isEndless ? null : Math.max(...depths),
        share: cut.length / looked,
      },
    ];
  });
}
