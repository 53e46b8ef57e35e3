/** What glass makes of what stands behind it: a picture as it is shown, its middle seen through the glass. */
import { linearFromSrgb, srgbFromLinear } from '../data/colour.ts';
import type { Rgb } from './stack.ts';

/** Share of the width, at each side, that stays as it is. */
const BESIDE = 0.3;

/**
 * Colours what is shown as light is coloured: display values are decoded, filtered, and coded again (IEC 61966-2-1). What
 * the display clipped was brighter than it shows, and comes out darker here than it would.
 *
 * @param pixels RGBA, 8 bits, row by row, sRGB; left as they are
 * @param through share of the light that gets through, by channel, 0–1
 * @returns the same size and order
 */
export function throughGlass(pixels: Uint8ClampedArray, width: number, through: Rgb): Uint8ClampedArray {
  const tables = through.map((share) =>
    Uint8ClampedArray.from({ length: 256 }, (_, code) => 255 * srgbFromLinear(share * linearFromSrgb(code / 255))),
  );
  const out = pixels.slice();
  const [from, to] = [Math.round(BESIDE * width), Math.round((1 - BESIDE) * width)];
  for (let row = 0; row < pixels.length; row += 4 * width)
    for (let i = row + 4 * from; i < row + 4 * to; i += 4)
      for (let k = 0; k < 3; k++) out[i + k] = tables[k][pixels[i + k]];
  return out;
}
