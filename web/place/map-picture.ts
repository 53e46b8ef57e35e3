/** Pixels of a light's shadows, by the maps of a preview or as they are; where the two differ in the colour of the reason. */
import type { ToldMaps } from '../../core/contracts/preview-shadows.ts';
import { REASONS, type ReasonId } from '../../core/shadow-map/reasons.ts';

/** sRGB 0–255; told apart by those who see two colours too, and named beside the picture. */
export const REASON_COLOURS: Record<ReasonId, readonly [number, number, number]> = {
  'beyond-map': [230, 120, 30],
  'beyond-light': [240, 190, 60],
  'before-near': [200, 90, 90],
  'bias-too-large': [90, 160, 240],
  'bias-too-small': [120, 220, 230],
  texels: [220, 110, 200],
  bits: [170, 120, 240],
  leak: [120, 200, 90],
  softness: [180, 170, 120],
  contact: [150, 150, 150],
};

/** What lies beside the light, and what is in its shadow, as shares of full light. */
const BESIDE = 0.05;
const SHADED = 0.18;

/** @param isMarked where the maps are wrong is in the colour of the first reason */
export function pictureOfMaps(maps: ToldMaps, of: 'shown' | 'lit', isMarked: boolean): ImageData {
  const { width, height, facing, why } = maps;
  const pixels = new Uint8ClampedArray(4 * width * height);
  for (let i = 0; i < width * height; i++) {
    const light = facing[i] === 0 ? BESIDE : SHADED + (1 - SHADED) * maps[of][i] * (0.35 + 0.65 * facing[i]);
    const reason = isMarked && why[i] !== 0 ? REASONS.find(({ bit }) => why[i] & bit) : undefined;
    const colour = reason ? REASON_COLOURS[reason.id] : [255 * light, 255 * light, 255 * light];
    for (let c = 0; c < 3; c++) pixels[4 * i + c] = colour[c];
    pixels[4 * i + 3] = 255;
  }
  return new ImageData(pixels, width, height);
}
