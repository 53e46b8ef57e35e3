/** A texture as the bytes of a file: an 8-bit image, or floats where its values need more. */
import { srgbFromLinear } from '../../data/colour.ts';
import type { Texture } from '../../data/texture.ts';
import { writeExr } from '../../formats/exr/write.ts';
import { writePng } from '../../formats/png.ts';

/** 8 bits a channel: what colours and masks of 8 bits came from. */
export function pngOf({ width, height, texels, alpha }: Texture, colourSpace: 'srgb' | 'linear'): Uint8Array {
  const curve = colourSpace === 'srgb' ? srgbFromLinear : (v: number) => v;
  const channels = alpha ? 4 : 3;
  const bytes = new Uint8Array(channels * width * height);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) bytes[channels * i + c] = Math.round(255 * curve(Math.min(1, Math.max(0, texels[3 * i + c])))); // prettier-ignore
    if (alpha) bytes[4 * i + 3] = Math.round(255 * alpha[i]);
  }
  return writePng(width, height, bytes);
}

export function exrOf({ width, height, texels, alpha }: Texture): Uint8Array {
  const plane = (c: number) => Float32Array.from({ length: width * height }, (_, i) => texels[3 * i + c]);
  const channels = new Map(['R', 'G', 'B'].map((name, c) => [name, plane(c)]));
  if (alpha) channels.set('A', Float32Array.from(alpha));
  // Wavelets need no deflating, which is the host's.
  return writeExr({ x: 0, y: 0, width, height, channels }, { display: { width, height }, compression: 'PIZ', deflate: (bytes) => bytes }); // prettier-ignore
}
