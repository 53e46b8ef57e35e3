/**
 * Portable float maps, one or three channels of 32-bit floats, to textures. Rows stand from the bottom.
 * Source: Debevec, "PFM Portable FloatMap Image Format" (text header "PF" or "Pf", size, scale whose
 * sign tells the byte order).
 */
import { MOST_PIXELS } from '../data/limits.ts';
import type { Texture } from '../data/texture.ts';

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readPfmTexture(bytes: Uint8Array, where: string): Texture {
  const head = String.fromCharCode(...bytes.subarray(0, 200));
  const match = /^(PF|Pf)\s+(\d+)\s+(\d+)\s+(-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?)\s/.exec(head);
  if (!match) throw new RangeError(`${where}: does not begin as a PFM file does`);
  const channels = match[1] === 'PF' ? 3 : 1;
  const [width, height, scale] = match.slice(2).map(Number);
  if (!(width * height > 0) || width * height > MOST_PIXELS)
    throw new RangeError(`${where}: states ${width} × ${height} pixels, which cannot be`);
  const need = match[0].length + width * height * channels * 4;
  if (bytes.byteLength < need) throw new RangeError(`${where}: is cut off: ${bytes.byteLength} bytes of ${need}`);
  const view = new DataView(bytes.buffer, bytes.byteOffset + match[0].length);
  const texels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        const from = ((height - 1 - y) * width + x) * channels + (channels === 3 ? c : 0);
        texels[(y * width + x) * 3 + c] = view.getFloat32(from * 4, scale < 0);
      }
  return { width, height, texels, alpha: null };
}

/** @param texels linear, R, G, B or one value a pixel, rows from the top */
export function writePfm(width: number, height: number, texels: ArrayLike<number>): Uint8Array {
  const isGrey = texels.length === width * height;
  const row = width * (isGrey ? 1 : 3);
  const head = new TextEncoder().encode(`${isGrey ? 'Pf' : 'PF'}\n${width} ${height}\n-1.0\n`);
  const out = new Uint8Array(head.length + row * height * 4);
  out.set(head);
  const view = new DataView(out.buffer, head.length);
  for (let y = 0; y < height; y++)
    for (let i = 0; i < row; i++) view.setFloat32(((height - 1 - y) * row + i) * 4, texels[y * row + i], true);
  return out;
}
