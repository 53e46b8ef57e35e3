/** PNG images, 8 and 16 bits, to linear textures and from display values. Source: PNG specification, third edition. */
import { MOST_PIXELS } from '../data/limits.ts';
import { decode, encode } from 'fast-png';
import { linearFromSrgb } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

/**
 * @param colourSpace of its values; `stated`: as the file's own chunks say, sRGB where they say nothing
 * @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes.
 */
export function readPngTexture(bytes: Uint8Array, colourSpace: 'srgb' | 'linear' | 'stated', where: string): Texture {
  checkSize(bytes, where);
  const stated = colourSpace === 'stated' ? statedGamma(bytes) : null;
  let image: ReturnType<typeof decode>;
  try {
    image = decode(bytes);
  } catch (error) {
    throw new RangeError(`${where}: is not a readable PNG (${(error as Error).message})`, { cause: error });
  }
  const { width, height, channels, depth, palette } = image;
  const top = depth === 16 ? 65535 : depth === 8 || palette ? 255 : (1 << depth) - 1;
  const curve = Float32Array.from({ length: top + 1 }, (_, i) =>
    colourSpace === 'linear' ? i / top : stated === null ? linearFromSrgb(i / top) : (i / top) ** (1 / stated),
  );
  const texels = new Float32Array(width * height * 3);
  const hasAlpha = palette ? palette.some((entry) => entry.length === 4) : channels === 2 || channels === 4;
  const alpha = hasAlpha ? new Float32Array(width * height) : null;
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) {
      const value = palette ? palette[image.data[i]][c] : image.data[i * channels + (channels >= 3 ? c : 0)];
      texels[i * 3 + c] = curve[value];
    }
    if (alpha)
      alpha[i] = palette ? (palette[image.data[i]][3] ?? 255) / 255 : image.data[i * channels + channels - 1] / top;
  }
  return { width, height, texels, alpha, ...(colourSpace === 'stated' ? {} : { colourSpace }) };
}

/** @param values 3 a pixel, or 4 with alpha, of 8 or 16 bits, rows from the top */
export function writePng(width: number, height: number, values: Uint8Array | Uint16Array): Uint8Array {
  return encode({
    width,
    height,
    data: values,
    channels: values.length === 4 * width * height ? 4 : 3,
    depth: values instanceof Uint16Array ? 16 : 8,
  });
}

/**
 * Exponent of a gAMA chunk; null where there is none, or where another chunk is obeyed before it (sRGB), or profiles
 * and code points say what is told as sRGB here.
 */
function statedGamma(bytes: Uint8Array): number | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let gamma: number | null = null;
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'IDAT') break;
    if (type === 'sRGB' || type === 'iCCP' || type === 'cICP') return null;
    if (type === 'gAMA' && length === 4 && view.getUint32(at + 8) > 0) gamma = view.getUint32(at + 8) / 100_000;
    at += 12 + length;
  }
  return gamma;
}

/** The header's size is checked before the decoder takes memory for it. */
function checkSize(bytes: Uint8Array, where: string): void {
  if (bytes.byteLength < 33) throw new RangeError(`${where}: ${bytes.byteLength} bytes are too few for a PNG file`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0) !== 0x89504e47) throw new RangeError(`${where}: does not begin as a PNG file does`);
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  if (width * height > MOST_PIXELS) throw new RangeError(`${where}: states ${width} × ${height} pixels, more than fit`);
}
