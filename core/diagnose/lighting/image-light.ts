/**
 * An image that lights the scene and is a display picture: it ends at white, so that whatever was brighter (the sun, lamps) lights
 * no more than paper does; or its display values are taken for light as they are, without the display's curve undone. Files of
 * whole numbers hold display values unless they were written otherwise on purpose: that is what is certain of it, and told. Files
 * of floats that were made of a display picture are told by their values, which are whole 255ths.
 */
import { luminance } from '../../data/colour.ts';
import { sunPlaceOf, type SunPlace, type Triple } from '../../data/placement.ts';
import { placedAt } from '../../data/aim.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { extensionOf } from '../../formats/paths.ts';
import { directionOf } from '../../lights/sky.ts';
import type { Assets } from '../../render/compile/assets.ts';
import { displayGrid } from '../../textures/display-grid.ts';
import type { Case, RenderInput } from '../family.ts';

export interface ImageLightCase extends Case {
  kind: 'image';
  /** It ends at white; its file is read as linear; or its floats hold display values. */
  fault: 'white' | 'linear' | 'baked';
  document: ShotDocument;
  assets: Assets;
  texture: string;
  file: string;
  /** Of the whole sphere, 0–1: what is white in it. */
  white: number;
  /** Where that is, and how wide, degrees; null where nothing is white. */
  brightest: (SunPlace & { from: Triple; degrees: number }) | null;
  /** Irradiance on level ground under it, luminance, W/m². */
  level: number;
}

/** Files whose values are whole numbers; those that can hold nothing but display values. */
const WHOLE = ['png', 'jpg', 'jpeg', 'tif', 'tiff'];
const DISPLAY_ONLY = ['jpg', 'jpeg'];
/** Below the top value, as a share; share of the sphere that is white before it is told: the sun has 0.000005, a blown sky 0.1. */
const TOP = 0.985;
const LEAST = 0.0003;

export function imageLightCases({ document, assets, scene, picture }: RenderInput): ImageLightCase[] {
  const { environment } = document;
  const image = scene.chains[scene.sky.texture]?.[0];
  if (environment.kind !== 'image' || environment.texture === null || environment.intensity === 0 || !image) return [];
  const { file, colourSpace } = document.textures[environment.texture];
  const ending = extensionOf(file);
  const grid = WHOLE.includes(ending) ? null : displayGrid(image.texels);
  if (!WHOLE.includes(ending) && grid === null) return [];
  const { width, height, texels } = image;
  const middle: Triple = [0, 0, 0];
  let [white, level] = [0, 0];
  for (let y = 0; y < height; y++) {
    const angle = ((2 * Math.PI) / width) * (Math.cos((y / height) * Math.PI) - Math.cos(((y + 1) / height) * Math.PI));
    for (let x = 0; x < width; x++) {
      const [r, g, b] = texels.subarray((y * width + x) * 3, (y * width + x) * 3 + 3);
      // Whole numbers end at 1: floats in a file that is called so do not count.
      if (Math.max(r, g, b) > 1) return [];
      const direction = directionOf(scene.sky, (x + 0.5) / width, 1 - (y + 0.5) / height);
      level += Math.max(0, direction[1]) * angle * luminance(r * scene.sky.scale[0], g * scene.sky.scale[1], b * scene.sky.scale[2]); // prettier-ignore
      if (Math.min(r, g, b) < TOP) continue;
      white += angle;
      for (let a = 0; a < 3; a++) middle[a] += angle * direction[a];
    }
  }
  const share = white / (4 * Math.PI);
  const whole = colourSpace === 'linear' ? 'linear' : share >= LEAST ? 'white' : null;
  const fault = grid === 'display' ? 'baked' : grid === 'undone' ? (share >= LEAST ? 'white' : null) : whole;
  // 16 bits are written linear by some, on purpose.
  if (fault === null || (fault === 'linear' && !DISPLAY_ONLY.includes(ending) && ending !== 'png')) return [];
  const length = Math.hypot(...middle);
  const from = middle.map((v) => v / length) as Triple;
  return [
    {
      key: `lighting.image-light ${fault}`,
      kind: 'image',
      // Some write light into whole numbers on purpose; what ends at white is cut either way.
      severity: fault === 'linear' && !DISPLAY_ONLY.includes(ending) ? 'note' : 'caution',
      region: { x: 0, y: 0, width: picture.width, height: picture.height },
      mask: null,
      passes: ['beauty', 'background'],
      fault,
      document,
      assets,
      texture: environment.texture,
      file,
      white: share,
      // A circle of as many steradians.
      brightest: length > 0 ? { ...sunPlaceOf(placedAt(from, [0, 0, 0])), from, degrees: (360 / Math.PI) * Math.acos(1 - Math.min(2, white / (2 * Math.PI))) } : null, // prettier-ignore
      level,
    },
  ];
}

/** Whether the file can be nothing but a display picture: by its kind, or by its values. */
export const isCertain = ({ file }: ImageLightCase): boolean =>
  DISPLAY_ONLY.includes(extensionOf(file)) || !WHOLE.includes(extensionOf(file));
