/**
 * The seam of an environment image whose left and right edges do not meet: a hard upright line wherever the camera, a mirror or
 * glass shows that direction. It is followed from the pixel to its place in the image.
 */
import { luminance } from '../../data/colour.ts';
import type { Texture } from '../../data/texture.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { objectNames } from '../../document/object-names.ts';
import { directionOf } from '../../lights/sky.ts';
import { SkyWalk } from '../../place/sky-walk.ts';
import { percentile } from '../../picture/measured.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Case, RenderInput } from '../family.ts';
import { maskOf, regionOf } from '../regions.ts';

export interface SeamCase extends Case {
  kind: 'seam';
  document: ShotDocument;
  file: string;
  /** Stops between both edges, the median, and between neighbouring columns elsewhere. */
  stops: number;
  usual: number;
  /** What shows it besides the background; empty: it is seen straight alone. */
  shownBy: string[];
  /** Degrees above the horizon, from and to. */
  elevations: [number, number];
  /** Degrees that the environment must be turned by for the seam to be out of sight; null: it is seen wherever it is. */
  turn: number | null;
}

/** Stops between edges from which on they are seen, and times what neighbouring columns differ by. */
const SEEN = 0.15;
const TIMES = 6;
/** Rows of pixels that must show it. */
const ROWS = 4;
/** Pixels across that are looked at, and degrees about the seam that must be out of sight. */
const ACROSS = 400;
const CLEAR = 3;
/** Luminance below which nothing is told. */
const DARK = 1e-3;

export function seamCases({ document, scene, sheet, picture }: RenderInput): SeamCase[] {
  const { environment } = document;
  const image = scene.chains[scene.sky.texture]?.[0];
  if (environment.kind !== 'image' || environment.texture === null || environment.intensity === 0 || !image) return [];
  const { stops, usual } = edgesOf(image);
  if (stops < SEEN || stops < TIMES * usual) return [];
  const walk = new SkyWalk(scene, document, settingsOf(sheet));
  const seam = azimuthOf(directionOf(scene.sky, 0, 0.5));
  const step = Math.max(1, Math.round(picture.width / ACROSS));
  const pixels: number[] = [];
  const shown = new Set<number>();
  const isSeen = new Uint8Array(360);
  let [low, high] = [90, -90];
  for (let y = 0; y < picture.height; y += step) {
    let before = null as { offset: number; by: string } | null;
    for (let x = 0; x < picture.width; x += step) {
      const sky = walk.skyAt(x, y);
      if (!sky) {
        before = null;
        continue;
      }
      const azimuth = azimuthOf(sky.direction);
      isSeen[Math.floor(azimuth)] = 1;
      // From the seam, −180 to 180 degrees.
      const offset = ((azimuth - seam + 540) % 360) - 180;
      const by = sky.by.join();
      if (before?.by === by && before.offset * offset <= 0 && Math.abs(before.offset - offset) < 90) {
        pixels.push(y * picture.width + x);
        for (const object of sky.by) shown.add(object);
        const elevation = (Math.asin(sky.direction[1]) * 180) / Math.PI;
        [low, high] = [Math.min(low, elevation), Math.max(high, elevation)];
      }
      before = { offset, by };
    }
  }
  if (pixels.length < ROWS) return [];
  const mask = maskOf(picture, pixels);
  const names = objectNames(document);
  return [
    {
      key: 'lighting.environment-seam',
      kind: 'seam',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['background', 'specular.direct', 'transmission.direct'],
      document,
      file: document.textures[environment.texture].file,
      stops,
      usual,
      shownBy: [...shown].map((object) => names[object]),
      elevations: [low, high],
      turn: turnFor(seam, isSeen),
    },
  ];
}

/** Stops between the first and the last column, and between neighbours. */
function edgesOf({ width, height, texels }: Texture): { stops: number; usual: number } {
  const level = (x: number, y: number) => {
    const i = (y * width + x) * 3;
    return Math.log2(DARK + Math.max(0, luminance(texels[i], texels[i + 1], texels[i + 2])));
  };
  const across = Math.max(1, Math.floor(width / 128));
  const [edges, neighbours]: number[][] = [[], []];
  for (let y = 0; y < height; y++) {
    edges.push(Math.abs(level(0, y) - level(width - 1, y)));
    for (let x = 0; x + 1 < width; x += across) neighbours.push(Math.abs(level(x, y) - level(x + 1, y)));
  }
  return { stops: percentile(edges, 0.5), usual: percentile(neighbours, 0.75) };
}

/** The least turn that takes the seam to where nothing is seen, degrees. */
function turnFor(seam: number, isSeen: Uint8Array): number | null {
  const isFree = (degrees: number) => {
    for (let d = -CLEAR; d <= CLEAR; d++) if (isSeen[(((Math.floor(seam) + degrees + d) % 360) + 360) % 360]) return false; // prettier-ignore
    return true;
  };
  for (let turn = 1; turn <= 180; turn++) for (const way of [turn, -turn]) if (isFree(way)) return way;
  return null;
}

/** Degrees about +Y from +Z by way of +X, as an environment's rotation counts; 0 to 360. */
const azimuthOf = ([x, , z]: readonly number[]): number => (((Math.atan2(x, z) * 180) / Math.PI) + 360) % 360; // prettier-ignore
