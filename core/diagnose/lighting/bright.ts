/**
 * What is beyond white: the sky behind everything, where it is the one that lights the scene and cannot be turned down alone;
 * and surfaces that get more light than the display shows.
 */
import { channel, type Picture } from '../../data/picture.ts';
import type { BackgroundSpec, ShotDocument } from '../../document/schema.ts';
import { LightWalk } from '../../place/light-walk.ts';
import { lightName } from '../../place/light-name.ts';
import { arrivingWith } from '../../place/light-walk.ts';
import { luminancePlane, percentile } from '../../picture/measured.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import { pointerOfLight } from '../shadows/light-pointer.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface TiedCase extends Case {
  kind: 'tied';
  document: ShotDocument;
  /** Share of the picture that is sky beyond white, and stops that it is beyond it, the median. */
  share: number;
  stops: number;
  /** A background of its own that is below white. */
  background: BackgroundSpec;
}

export interface OverexposedCase extends Case {
  kind: 'overexposed';
  document: ShotDocument;
  share: number;
  stops: number;
  /** The light that brings most there, its share, and the factor on it that brings the place below white; null: it alone cannot. */
  light: { name: string; pointer: string | null; share: number; factor: number | null };
}

/** Share of a picture that is white before it is told, and of its surfaces. */
const SKY = 0.05;
const SURFACES = 0.12;
/** Where what was white comes to stand, linear. */
const BELOW = 0.8;
/** Places that are asked which light it is. */
const ASKED = 60;

export function tiedCases({ document, picture }: RenderInput): TiedCase[] {
  const { environment } = document;
  if (document.background !== null || environment.intensity === 0) return [];
  const coverage = channel(picture, 'coverage');
  const white = whitePixels(picture, (i) => coverage[i] < 0.02);
  const share = white.length / coverage.length;
  if (share < SKY) return [];
  const y = luminancePlane(picture, 'beauty');
  const bright = percentile(white.map((i) => y[i]), 0.9); // prettier-ignore
  const mask = maskOf(picture, white);
  const { kind, intensity, colour, stops, texture, rotation, daylight } = environment;
  const factor = BELOW / bright;
  return [
    {
      key: 'lighting.background-tied',
      kind: 'tied',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['background', 'beauty'],
      document,
      share,
      stops: Math.log2(percentile(white.map((i) => y[i]), 0.5)), // prettier-ignore
      background: {
        kind,
        intensity: +(intensity * factor).toPrecision(3),
        colour,
        stops,
        texture,
        rotation,
        daylight,
        camera: true,
      },
    },
  ];
}

export function overexposedCases(input: RenderInput): OverexposedCase[] {
  const { document, scene, sheet, picture } = input;
  const coverage = channel(picture, 'coverage');
  const emission = luminancePlane(picture, 'emission');
  const y = luminancePlane(picture, 'beauty');
  const white = whitePixels(picture, (i) => coverage[i] > 0.98 && emission[i] < 0.1 * y[i]);
  const share = white.length / Math.max(1, coverage.reduce((n, one) => n + Number(one > 0.98), 0)); // prettier-ignore
  if (share < SURFACES) return [];
  const walk = new LightWalk(scene, document, settingsOf(sheet));
  const brought = new Float64Array(scene.lightCount);
  for (let k = 0; k < ASKED; k++) {
    const i = white[Math.floor(((k + 0.5) * white.length) / ASKED)];
    const place = walk.surfaceAt(i % picture.width, Math.floor(i / picture.width));
    if (place) for (let row = 0; row < scene.lightCount; row++) brought[row] += arrivingWith(walk.towards(place, row, 16).rays, 0); // prettier-ignore
  }
  const all = brought.reduce((sum, one) => sum + one, 0);
  if (!(all > 0)) return [];
  const row = brought.indexOf(Math.max(...brought));
  const most = brought[row] / all;
  const factor = 1 - (1 - BELOW / percentile(white.map((i) => y[i]), 0.9)) / most; // prettier-ignore
  const mask = maskOf(picture, white);
  return [
    {
      key: 'lighting.overexposed',
      kind: 'overexposed',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['beauty', 'diffuse.direct'],
      document,
      share,
      stops: Math.log2(percentile(white.map((i) => y[i]), 0.5)), // prettier-ignore
      light: { name: lightName(input, row), pointer: pointerOfLight(input, row), share: most, factor: factor > 0.001 ? factor : null }, // prettier-ignore
    },
  ];
}

/** Pixels that show plain white: every channel is beyond it. */
function whitePixels(picture: Picture, isMeant: (i: number) => boolean): number[] {
  const planes = ['R', 'G', 'B'].map((c) => channel(picture, `beauty.${c}`));
  const out: number[] = [];
  for (let i = 0; i < planes[0].length; i++) if (isMeant(i) && planes.every((plane) => plane[i] >= 1)) out.push(i);
  return out;
}
