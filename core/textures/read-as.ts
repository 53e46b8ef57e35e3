/**
 * A texture as if its file had been read in the other colour space, so that a change of it can be forecast from what is in
 * memory. Values of whole numbers are the same either way but for rounding to 32 bits.
 */
import { linearFromSrgb, srgbFromLinear } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

/** @returns the texture itself where nothing differs, or floats stand in the file, which are linear whatever is said of them */
export function readAs(texture: Texture, colourSpace: 'srgb' | 'linear'): Texture {
  if (texture.colourSpace === undefined || texture.colourSpace === colourSpace) return texture;
  const curve = colourSpace === 'srgb' ? linearFromSrgb : srgbFromLinear;
  return { ...texture, colourSpace, texels: texture.texels.map(curve) };
}

/** Display values that stand in a file of floats, as light. */
export const withoutCurve = (texture: Texture): Texture => ({ ...texture, texels: texture.texels.map(linearFromSrgb) });
