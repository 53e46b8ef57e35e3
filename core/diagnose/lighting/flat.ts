/**
 * Sides that look alike: surfaces that face different ways get as much light, so that shapes are told by their outlines alone.
 * What a surface gets is read off the picture: diffuse light over albedo, up to π the irradiance.
 */
import { luminance } from '../../data/colour.ts';
import { channel } from '../../data/picture.ts';
import type { Triple } from '../../data/placement.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface FlatCase extends Case {
  kind: 'flat';
  document: ShotDocument;
  /** Stops between the brightest and the darkest of the ways that surfaces face, and between nine tenths and one tenth of all of them. */
  sides: number;
  spread: number;
  /** Irradiance by way faced, the median, W/m². */
  ways: { name: string; irradiance: number }[];
  /** From the middle of what is seen to the camera, unit. */
  towardsEye: Triple;
  median: number;
}

/** Stops below which sides look alike, and below which all of the picture does. */
const SIDES = 0.3;
const SPREAD = 0.6;
/** Ways that must be seen, and the share of the surfaces of each. */
const WAYS = 3;
const SHARE = 0.03;
/** Share of the picture that must be surfaces, albedo that tells light, and cosine to an axis that is faced. */
const COVERED = 0.1;
const TELLING = 0.02;
const FACED = 0.75;
const NAMES = [['right', 'left'], ['up', 'down'], ['front', 'back']]; // prettier-ignore

export function flatCases({ document, picture }: RenderInput): FlatCase[] {
  const coverage = channel(picture, 'coverage');
  const albedo = ['R', 'G', 'B'].map((c) => channel(picture, `albedo.${c}`));
  const normal = ['X', 'Y', 'Z'].map((c) => channel(picture, `normal.${c}`));
  const [direct, indirect] = ['diffuse.direct', 'diffuse.indirect'].map((pass) => luminancePlane(picture, pass));
  const pixels: number[] = [];
  const ways = new Map<string, number[]>();
  const all: number[] = [];
  for (let i = 0; i < coverage.length; i++) {
    const own = luminance(albedo[0][i], albedo[1][i], albedo[2][i]);
    const light = direct[i] + indirect[i];
    if (coverage[i] < 0.98 || own < TELLING || light <= 0) continue;
    const irradiance = (Math.PI * light) / own;
    pixels.push(i);
    all.push(irradiance);
    const axis = [0, 1, 2].find((a) => Math.abs(normal[a][i]) >= FACED);
    if (axis === undefined) continue;
    const name = NAMES[axis][normal[axis][i] > 0 ? 0 : 1];
    if (!ways.has(name)) ways.set(name, []);
    ways.get(name)!.push(irradiance);
  }
  if (all.length < COVERED * coverage.length) return [];
  const faced = [...ways]
    .filter(([, values]) => values.length >= SHARE * all.length)
    .map(([name, values]) => ({ name, irradiance: percentile(values, 0.5) }));
  if (faced.length < WAYS) return [];
  const levels = faced.map(({ irradiance }) => irradiance);
  const sides = Math.log2(Math.max(...levels) / Math.min(...levels));
  const spread = Math.log2(percentile(all, 0.9) / percentile(all, 0.1));
  if (!(sides < SIDES) || !(spread < SPREAD)) return [];
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
      spread,
      ways: faced.sort((a, b) => b.irradiance - a.irradiance),
      towardsEye: [transform[8], transform[9], transform[10]],
      median: percentile(all, 0.5),
    },
  ];
}
