/** Colours of images with alpha put right at their edges. Source: Porter & Duff, "Compositing Digital Images", 1984. */
import type { AlphaMend } from '../contracts/intake.ts';
import type { Texture } from '../data/texture.ts';

/** Alpha below which no colour can be told by dividing, and above which a texel has one of its own. */
const [LEAST, OWN] = [1 / 255, 0.5];
/** Texels that colours are carried. */
const REACH = 16;

/** @returns a new texture; one without alpha as it is */
export function mendAlpha(how: AlphaMend, texture: Texture): Texture {
  const { alpha, texels, width, height } = texture;
  if (!alpha) return texture;
  const out = { ...texture, texels: texels.slice() };
  if (how === 'divide') {
    alpha.forEach((a, i) => {
      for (let c = 0; c < 3; c++) out.texels[3 * i + c] = a > LEAST ? Math.min(1, texels[3 * i + c] / a) : 0;
    });
    return mendAlpha('bleed', out);
  }
  let front: number[] = [];
  const known = Uint8Array.from(alpha, (a) => Number(a >= OWN));
  for (let i = 0; i < known.length; i++) if (known[i]) front.push(i);
  for (let ring = 0; ring < REACH && front.length > 0; ring++) {
    const next: number[] = [];
    const sums = new Map<number, [number, number, number, number]>();
    for (const i of front)
      for (const j of around(i, width, height)) {
        if (known[j]) continue;
        const sum = sums.get(j) ?? [0, 0, 0, 0];
        for (let c = 0; c < 3; c++) sum[c] += out.texels[3 * i + c];
        sum[3] += 1;
        sums.set(j, sum);
      }
    for (const [j, [r, g, b, n]] of sums) {
      out.texels.set([r / n, g / n, b / n], 3 * j);
      known[j] = 1;
      next.push(j);
    }
    front = next;
  }
  return out;
}

function around(i: number, width: number, height: number): number[] {
  const [x, y] = [i % width, Math.floor(i / width)];
  const out: number[] = [];
  for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++)
    for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++)
      if (nx !== x || ny !== y) out.push(ny * width + nx);
  return out;
}
