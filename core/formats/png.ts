/** PNG images, 8 and 16 bits, to linear textures and from display values. Source: PNG specification, third edition. */
import { decode, encode } from 'fast-png';
import { linearFromSrgb } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

const MOST_PIXELS = 2 ** 28;

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readPngTexture(bytes: Uint8Array, colourSpace: 'srgb' | 'linear', where: string): Texture {
  checkSize(bytes, where);
  let image: ReturnType<typeof decode>;
  try {
    image = decode(bytes);
  } catch (error) {
    throw new RangeError(`${where}: is not a readable PNG (${(error as Error).message})`, { cause: error });
  }
  const { width, height, channels, depth, palette } = image;
  const top = depth === 16 ? 65535 : depth === 8 || palette ? 255 : (1 << depth) - 1;
  const curve = Float32Array.from({ length: top + 1 }, (_, i) =>
    colourSpace === 'srgb' ? linearFromSrgb(i / top) : i / top,
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
  return { width, height, texels, alpha };
}

/** @param rgb 3 bytes a pixel, rows from the top */
export function writePng(width: number, height: number, rgb: Uint8Array): Uint8Array {
  return encode({ width, height, data: rgb, channels: 3, depth: 8 });
}

/** The header's size is checked before the decoder takes memory for it. */
function checkSize(bytes: Uint8Array, where: string): void {
  if (bytes.byteLength < 33) throw new RangeError(`${where}: ${bytes.byteLength} bytes are too few for a PNG file`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0) !== 0x89504e47) throw new RangeError(`${where}: does not begin as a PNG file does`);
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  if (width * height > MOST_PIXELS) throw new RangeError(`${where}: states ${width} × ${height} pixels, more than fit`);
}
