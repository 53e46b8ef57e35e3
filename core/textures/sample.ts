import type { Texture } from '../data/texture.ts';

/**
 * Bilinear look-up with repeat; (0, 0) is the bottom left corner of the image.
 * Writes linear R, G, B to `out[0..2]`.
 */
export function sampleTexture(texture: Texture, u: number, v: number, out: Float64Array): void {
  const { width, height, texels } = texture;
  const x = (u - Math.floor(u)) * width - 0.5;
  const y = (1 - (v - Math.floor(v))) * height - 0.5;
  const fx = Math.floor(x);
  const fy = Math.floor(y);
  const ax = x - fx;
  const ay = y - fy;
  const x0 = ((fx % width) + width) % width;
  const y0 = ((fy % height) + height) % height;
  const x1 = x0 + 1 === width ? 0 : x0 + 1;
  const y1 = y0 + 1 === height ? 0 : y0 + 1;
  const p = (y0 * width + x0) * 3;
  const q = (y0 * width + x1) * 3;
  const r = (y1 * width + x0) * 3;
  const s = (y1 * width + x1) * 3;
  const wp = (1 - ax) * (1 - ay);
  const wq = ax * (1 - ay);
  const wr = (1 - ax) * ay;
  const ws = ax * ay;
  out[0] = texels[p] * wp + texels[q] * wq + texels[r] * wr + texels[s] * ws;
  out[1] = texels[p + 1] * wp + texels[q + 1] * wq + texels[r + 1] * wr + texels[s + 1] * ws;
  out[2] = texels[p + 2] * wp + texels[q + 2] * wq + texels[r + 2] * wr + texels[s + 2] * ws;
}
