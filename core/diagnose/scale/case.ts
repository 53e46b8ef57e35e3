/** What the sheet does to distances: rays that end before what is in view, and positions too coarse so far from the origin. */
import { spacing } from '../../data/float32.ts';
import { channel } from '../../data/picture.ts';
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { cornerOf, maskOfBlocks, placesOver, type GridPlace } from '../../place/grid.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { poseAt } from '../../render/compile/motion.ts';
import { IS_FLOOR, settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';
import { clipCases, type ClipCase } from './clip.ts';

export interface ShortRaysCase extends Case {
  kind: 'rays';
  /** Metres: the sheet's, and the farthest surface that the camera would see; null: it goes on to the horizon. */
  reach: number;
  farthest: number | null;
  /** Share of the picture. */
  share: number;
}

export interface CoarseCase extends Case {
  kind: 'coarse';
  document: ShotDocument;
  /** Metres: from the origin, between neighbouring positions there, and that a pixel is wide; of the median place that is too coarse. */
  away: number;
  step: number;
  pixel: number;
  /** Share of the places where a step is that much of a pixel. */
  share: number;
  /** Metres from the origin that placements hold, and vertices from the origins of their meshes; the most of what is too coarse. */
  offset: { transforms: number; vertices: number };
  /** Whole metres, about the middle of what is seen. */
  middle: Triple;
}

export type ScaleCase = ShortRaysCase | CoarseCase | ClipCase;

/** Share of a pixel's rays that must be cut, and of the picture's pixels. */
const CUT = 0.02;
const LEAST = 0.0015;
/** Places that are looked at, about. */
const PLACES = 400;
/** Share of a pixel that steps of positions may be: beyond it edges shake from frame to frame. */
const SHAKES = 0.1;
const SOME = 0.05;

export function scaleCases(input: RenderInput): ScaleCase[] {
  return [...clipCases(input), ...shortRays(input), ...coarsePositions(input)];
}

function shortRays({ scene, document, sheet, picture }: RenderInput): ShortRaysCase[] {
  if (sheet.rayDistance === null) return [];
  const cut = channel(picture, 'cut.distance');
  const pixels: number[] = [];
  cut.forEach((share, i) => share > CUT && pixels.push(i));
  if (pixels.length < LEAST * cut.length) return [];
  const walk = new LightWalk(scene, document, settingsOf({ ...sheet, rayDistance: null }));
  const beyond = pixels.flatMap((i) => {
    const place = walk.surfaceAt(i % picture.width, Math.floor(i / picture.width));
    return place && place.metres > sheet.rayDistance! ? [place] : [];
  });
  // A floor has no end. What is cut behind mirrors and glass has no straight distance.
  const isEndless = beyond.some(({ instance }) => (scene.instanceFlags[instance] & IS_FLOOR) !== 0);
  const farthest = isEndless ? null : beyond.reduce((most, { metres }) => Math.max(most, metres), 2 * sheet.rayDistance); // prettier-ignore
  const mask = maskOf(picture, pixels);
  return [
    {
      key: 'scale.ray-distance',
      kind: 'rays',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['cut.distance'],
      reach: sheet.rayDistance,
      farthest,
      share: pixels.length / cut.length,
    },
  ];
}

function coarsePositions({ scene, document, sheet, picture }: RenderInput): CoarseCase[] {
  if (sheet.precision !== 'single') return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const { step, places } = placesOver(walk, picture, PLACES);
  const coarse = places.filter(({ place }) => stepAt(place.point) > SHAKES * place.pixel);
  if (coarse.length < Math.max(2, SOME * places.length)) return [];
  const middle = [0, 1, 2].map((a) => Math.round(percentile(places.map(({ place }) => place.point[a]), 0.5))) as Triple; // prettier-ignore
  const worst = coarse.map(({ place }) => place).sort((a, b) => stepAt(b.point) / b.pixel - stepAt(a.point) / a.pixel)[coarse.length >> 1]; // prettier-ignore
  const mask = maskOfBlocks(picture, step, coarse.map((at) => cornerOf(at, step))); // prettier-ignore
  return [
    {
      key: 'scale.single-precision',
      kind: 'coarse',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['position', 'beauty'],
      document,
      away: Math.hypot(...worst.point),
      step: stepAt(worst.point),
      pixel: worst.pixel,
      share: coarse.length / places.length,
      offset: offsetOf(document, scene, coarse),
      middle,
    },
  ];
}

/** Metres between neighbouring positions of 32 bits, by the largest coordinate. */
export const stepAt = (point: Triple): number => spacing(Math.max(...point.map(Math.abs)));

/** Where the distance of places from the origin comes from: the placement of their objects, or the vertices. */
function offsetOf(document: ShotDocument, scene: RenderInput['scene'], places: GridPlace[]): CoarseCase['offset'] {
  const offset = { transforms: 0, vertices: 0 };
  for (const { place } of places) {
    const { transform } = poseAt(document.objects[scene.objectIds[place.object]], document.frame);
    offset.transforms = Math.max(offset.transforms, Math.hypot(transform[12], transform[13], transform[14]));
    offset.vertices = Math.max(offset.vertices, Math.hypot(...place.point.map((v, a) => v - transform[12 + a])));
  }
  return offset;
}
