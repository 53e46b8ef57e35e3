/** Colours of images with alpha put right at their edges. Source: Porter & Duff, "Compositing Digital Images", 1984. */
import type { AlphaMend } from '../contracts/intake.ts';
import type { Texture } from '../data/texture.ts';
import { dilate } from './dilate.ts';

/** Alpha below which no colour can be told by dividing, and above which a texel has one of its own. */
const [LEAST, OWN] = [1 / 255, 0.5];
/** Texels that colours are carried. */
const REACH = 16;

/** @returns a new texture; one without alpha as it is */
export function mendAlpha(how: AlphaMend, texture: Texture): Texture {
  const { alpha, texels } = texture;
  if (!alpha) return texture;
  const out = { ...texture, texels: texels.slice() };
  if (how === 'divide') {
    alpha.forEach((a, i) => {
      for (let c = 0; c < 3; c++) out.texels[3 * i + c] = a > LEAST ? Math.min(1, texels[3 * i + c] / a) : 0;
    });
    return mendAlpha('bleed', out);
  }
  dilate(
    out,
    Uint8Array.from(alpha, (a) => Number(a >= OWN)),
    { rings: REACH },
  );
  return out;
}
