/**
 * Where passes without noise (albedo, normal, depth) say that a picture has detail as fine as a pixel: there its own
 * differences tell nothing about noise.
 *
 * @example
 * const skip = guideEdges([albedo, ...normals, depth], width, height);
 */

/** A pixel differs from what its neighbours lead one to expect by so much of their brightness: an edge, or texture. */
const DETAIL = 0.01;
/** Share of the pixels that must be left: where detail is all over, it cannot be left out. */
const ENOUGH = 0.1;

/** @returns a byte a pixel, 1 where there is detail; null where too few pixels would be left, or there is no guide */
export function guideEdges(guides: ArrayLike<number>[], width: number, height: number): Uint8Array | null {
  if (guides.length === 0) return null;
  const out = new Uint8Array(width * height);
  let left = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (guides.some((guide) => hasDetail(guide, width, i))) out[i] = 1;
      else left++;
    }
  return left >= ENOUGH * width * height ? out : null;
}

/** By the operator that reads noise off pictures, see `noise.ts`; and by slopes, which light often has along with them. */
function hasDetail(guide: ArrayLike<number>, width: number, i: number): boolean {
  const corners = guide[i - width - 1] + guide[i - width + 1] + guide[i + width - 1] + guide[i + width + 1];
  const sides = guide[i - width] + guide[i + width] + guide[i - 1] + guide[i + 1];
  const size = (Math.abs(corners) + Math.abs(sides) + Math.abs(guide[i])) / 9;
  return Math.abs(corners - 2 * sides + 4 * guide[i]) / 6 > DETAIL * size;
}
