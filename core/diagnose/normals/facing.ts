/**
 * Surfaces that are not there for the camera because they turn the wrong side to it: of objects that have but one side. Where all
 * of a room's wall is taken away so, to look in, that is meant.
 */
import type { ShotDocument } from '../../document/schema.ts';
import { cornerOf, maskOfBlocks } from '../../place/grid.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { settingsOf, type CompiledScene } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { meshShape, type MeshShape } from '../mesh-shape.ts';
import { regionOf } from '../regions.ts';

export interface TurnedCase extends Case {
  kind: 'turned';
  document: ShotDocument;
  id: string;
  name: string;
  /** Its mesh: turned inside out, turned both ways, or open and seen from behind. */
  why: 'inside-out' | 'mixed' | 'one-sided';
  /** Edges between faces that turn opposite ways. */
  mixedEdges: number;
  /** Share of the picture where it is missing. */
  share: number;
}

/** Places that are looked at, about, and of them those that must miss it. */
const PLACES = 6000;
const LEAST = 6;

export function turnedCases({ document, scene, sheet, picture }: RenderInput): TurnedCase[] {
  if (!Object.values(document.objects).some(({ facing, hidden }) => facing !== 'both' && !hidden)) return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const step = Math.max(1, Math.round(Math.sqrt((picture.width * picture.height) / PLACES)));
  const missing = new Map<number, { x: number; y: number }[]>();
  let looked = 0;
  for (let y = step >> 1; y < picture.height; y += step)
    for (let x = step >> 1; x < picture.width; x += step) {
      looked += 1;
      const object = walk.firstTurned(x, y);
      if (object >= 0) missing.set(object, [...(missing.get(object) ?? []), { x, y }]);
    }
  return [...missing].flatMap(([object, places]): TurnedCase[] => {
    const shape = places.length >= LEAST ? meshShape(scene, object) : null;
    const why = shape && whyTurned(scene, object, shape);
    if (!why) return [];
    const id = scene.objectIds[object];
    const mask = maskOfBlocks(picture, step, places.map((at) => cornerOf(at, step))); // prettier-ignore
    return [
      {
        key: `normals.turned ${id}`,
        kind: 'turned',
        severity: 'caution',
        region: regionOf(picture, mask),
        mask,
        passes: ['beauty', 'normal'],
        objects: [document.objects[id].name || id],
        document,
        id,
        name: document.objects[id].name || id,
        why,
        mixedEdges: shape!.mixedEdges,
        share: places.length / looked,
      },
    ];
  });
}

/** Null where it is meant. */
function whyTurned(scene: CompiledScene, object: number, shape: MeshShape): TurnedCase['why'] | null {
  if (shape.mixedEdges > 0) return 'mixed';
  if (!shape.isClosed) return 'one-sided';
  return holdsMost(scene, object, shape) ? null : 'inside-out';
}

/** Whether most of the other things stand inside: it is a room. */
function holdsMost(scene: CompiledScene, object: number, { min, max }: MeshShape): boolean {
  const others = scene.objectIds.map((_, n) => (n === object ? null : meshShape(scene, n))).filter((one) => one !== null); // prettier-ignore
  const inside = others.filter((one) => one.min.every((v, a) => v >= min[a]) && one.max.every((v, a) => v <= max[a]));
  return inside.length >= 2 && inside.length > others.length / 2;
}
