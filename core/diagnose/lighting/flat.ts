/**
 * Sides that look alike: faces that look different ways get as much light, so that shapes are told by their outlines alone. It is
 * asked of faces that stand upright at places all over the picture, whether there are such or not: what lies level sees the sky
 * and differs under any light.
 */
import { channel } from '../../data/picture.ts';
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { placesOver } from '../../place/grid.ts';
import { arrivingWith, LightWalk, unshadowed } from '../../place/light-walk.ts';
import type { Place } from '../../place/surface-walk.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface FlatCase extends Case {
  kind: 'flat';
  document: ShotDocument;
  /** Stops between the brightest and the darkest side, the median of all places. */
  sides: number;
  /** Irradiance by way faced, the mean over places, W/m². */
  ways: { name: string; irradiance: number }[];
  /** From what is seen to the camera, unit. */
  towardsEye: Triple;
}

/** Stops between sides below which light comes from everywhere alike, nothing standing in its way; and from which on what does stand in its way shapes it. */
const ALIKE = 0.06;
const SHAPED = 0.7;
/** Share of the picture that must be surfaces. */
const COVERED = 0.1;
/** Places that are asked, about; rays from a side to a light, and lights beyond which the rest is left out. */
const PLACES = 40;
const RAYS = 32;
/** The environment comes from all around: times as many. */
const ALL_AROUND = 16;
const MOST_LIGHTS = 24;
/** Light that bounces, over what arrives, up to which it is taken to come from all around. */
const MOST_BOUNCED = 1;
/** Cosine between a side and the surface it stands on beyond which it looks into it. */
const INTO = -0.2;
/** How far sides stand off the surface, as a share of their distance to the camera. */
const OFF = 0.01;

const WAYS: { name: string; normal: Triple }[] = [
  { name: '+X', normal: [1, 0, 0] },
  { name: '−X', normal: [-1, 0, 0] },
  { name: '+Z', normal: [0, 0, 1] },
  { name: '−Z', normal: [0, 0, -1] },
];

export function flatCases(input: RenderInput): FlatCase[] {
  const { document, picture, scene, sheet } = input;
  const coverage = channel(picture, 'coverage');
  const pixels = [...coverage.keys()].filter((i) => coverage[i] > 0.98);
  if (pixels.length < COVERED * coverage.length) return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const { places } = placesOver(walk, picture, PLACES);
  const bounced = bouncedShare(input, pixels);
  // Where more bounces than arrives, this does not tell what sides get.
  if (bounced > MOST_BOUNCED) return [];
  const contrasts: { open: number; shaded: number }[] = [];
  const sums = WAYS.map(() => ({ irradiance: 0, count: 0 }));
  for (const { place } of places) {
    const faces = WAYS.map(({ normal }) => (dot(normal, place.normal) < INTO ? null : sideAt(walk, place, normal)));
    const lit = faces.filter((one) => one !== null);
    // What bounces comes from all around.
    const fill = (bounced * lit.reduce((sum, { shaded }) => sum + shaded, 0)) / Math.max(1, lit.length);
    faces.forEach((one, k) => {
      if (one === null) return;
      sums[k].irradiance += one.shaded + fill;
      sums[k].count += 1;
    });
    const stops = (of: 'open' | 'shaded') => Math.log2((Math.max(...lit.map((one) => one[of])) + fill) / (Math.min(...lit.map((one) => one[of])) + fill)); // prettier-ignore
    if (lit.length > 1 && lit.some(({ shaded }) => shaded > 0)) contrasts.push({ open: stops('open'), shaded: stops('shaded') }); // prettier-ignore
  }
  if (contrasts.length === 0) return [];
  const [open, sides] = (['open', 'shaded'] as const).map((of) => percentile(contrasts.map((one) => one[of]), 0.5)); // prettier-ignore
  if (!(open < ALIKE) || !(sides < SHAPED)) return [];
  const mask = maskOf(picture, pixels);
  const { transform } = document.cameras[document.camera];
  return [
    {
      key: 'lighting.flat-sides',
      kind: 'flat',
      severity: 'note',
      region: regionOf(picture, mask),
      mask,
      passes: ['diffuse.direct', 'normal'],
      document,
      sides,
      ways: sums.flatMap(({ irradiance, count }, k) =>
        count > 0 ? [{ name: WAYS[k].name, irradiance: irradiance / count }] : [],
      ),
      towardsEye: [transform[8], transform[9], transform[10]],
    },
  ];
}

/** Irradiance of an upright side at a place, luminance, W/m²: as it is, and with nothing in the way of light. */
function sideAt(walk: LightWalk, place: Place, normal: Triple): { open: number; shaded: number } {
  const point = place.point.map((c, a) => c + OFF * place.metres * place.normal[a]) as Triple;
  const side: Place = { ...place, point, normal, shadingNormal: normal };
  const sum = { open: 0, shaded: 0 };
  for (let row = 0; row < Math.min(MOST_LIGHTS, walk.scene.lightCount); row++) {
    const isAround = walk.scene.lightIds[row] === 'environment';
    const { rays } = walk.towards(side, row, isAround ? ALL_AROUND * RAYS : RAYS);
    sum.open += unshadowed(rays);
    sum.shaded += arrivingWith(rays, 0);
  }
  return sum;
}

/** What bounces, over what arrives directly, of all that is seen. */
function bouncedShare({ picture }: RenderInput, pixels: number[]): number {
  const [direct, indirect] = ['diffuse.direct', 'diffuse.indirect'].map((pass) => {
    const plane = luminancePlane(picture, pass);
    return pixels.reduce((sum, i) => sum + plane[i], 0);
  });
  return direct > 0 ? indirect / direct : 0;
}

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
