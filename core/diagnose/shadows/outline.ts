/**
 * Shadows whose outline is a polygon, for what throws them is: a hard light draws the edges of a mesh that is shaded smooth. Corners
 * that were modelled are in the shadow by right.
 */
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { maskOfBlocks } from '../../place/grid.ts';
import { percentile } from '../../picture/measured.ts';
import { IS_FLAT } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { regionOf } from '../regions.ts';
import { keyOf } from './key-light.ts';
import { silhouetteOf } from './silhouette.ts';
import type { Survey, SurveyedPlace } from './survey.ts';

export interface OutlineCase extends Case {
  kind: 'outline';
  document: ShotDocument;
  /** Keys of what throws it, and of the light. */
  ids: string[];
  light: string;
  /** Of the corners: degrees, and pixels that the edges are long and off the curve on what is lit. */
  degrees: number;
  edge: number;
  off: number;
}

/** Degrees of a light whose shadows have edges; places in its shadow; pixels off the curve that are seen, and times its edge's width. */
const HARD = 6;
const LEAST = 3;
const SEEN = 1;
const SHARP = 0.5;

export function outlineCases(input: RenderInput, survey: Survey): OutlineCase[] {
  const { document, scene, picture } = input;
  const key = keyOf(input, survey);
  if (!key) return [];
  const light = scene.lightIds[key.row];
  if (!Object.hasOwn(document.lights, light)) return [];
  const shaded = new Map<number, { at: SurveyedPlace; scale: number; edge: number; direction: Triple }[]>();
  for (const at of survey.places) {
    const own = at.lights.find((one) => one.light === key.row);
    const blocker = own?.blockers.find(({ blocks }) => blocks);
    if (!own || !blocker || !own.direction || own.angle === null || own.angle > HARD) continue;
    // What a lamp throws is larger than what throws it.
    const scale = own.metres === null ? 1 : own.metres / Math.max(1e-9, own.metres - blocker.metres);
    const places = shaded.get(blocker.object) ?? [];
    if (places.length === 0) shaded.set(blocker.object, places);
    places.push({ at, scale, edge: own.penumbra?.metres ?? 0, direction: own.direction });
  }
  const found = [...shaded].flatMap(([object, places]) => {
    const instance = scene.instanceObject.indexOf(object);
    if (places.length < LEAST || (scene.instanceFlags[instance] & IS_FLAT) !== 0) return [];
    const { geometry } = scene;
    const rows = geometry.toWorld.subarray(instance * 12, instance * 12 + 12);
    const seen = silhouetteOf(geometry.meshes[geometry.instanceMesh[instance]], rows, places[places.length >> 1].direction); // prettier-ignore
    if (!seen) return [];
    const median = (of: (one: (typeof places)[number]) => number) => percentile(places.map(of), 0.5);
    const perPixel = median(({ at, scale }) => scale / at.place.pixel);
    const off = seen.off * perPixel;
    if (off < SEEN || seen.off * median(({ scale }) => scale) < SHARP * median(({ edge }) => edge)) return [];
    return [{ object, places, degrees: seen.degrees, edge: seen.metres * perPixel, off }];
  });
  if (found.length === 0) return [];
  const [worst] = [...found].sort((a, b) => b.off - a.off);
  const mask = maskOfBlocks(picture, survey.step, found.flatMap(({ places }) => places.map(({ at }) => at))); // prettier-ignore
  const ids = found.map(({ object }) => scene.objectIds[object]);
  return [
    {
      key: `shadows.outline ${light}`,
      kind: 'outline',
      severity: 'note',
      region: regionOf(picture, mask),
      mask,
      passes: ['diffuse.direct'],
      objects: ids.map((id) => document.objects[id].name || id),
      document,
      ids,
      light,
      degrees: worst.degrees,
      edge: worst.edge,
      off: worst.off,
    },
  ];
}
