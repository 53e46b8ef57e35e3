/** JPEG images of 8 bits to linear textures, through jpeg-js. Source: ITU-T T.81. */
import { decode } from 'jpeg-js';
import { MOST_PIXELS } from '../data/limits.ts';
import { linearFromSrgb } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

const MOST_MEGABYTES = 4096;

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readJpegTexture(bytes: Uint8Array, colourSpace: 'srgb' | 'linear', where: string): Texture {
  let image: { width: number; height: number; data: Uint8Array };
  try {
    image = decode(bytes, {
      useTArray: true,
      formatAsRGBA: false,
      maxResolutionInMP: MOST_PIXELS / 1e6,
      maxMemoryUsageInMB: MOST_MEGABYTES,
    });
  } catch (error) {
    throw new RangeError(`${where}: is not a readable JPEG (${(error as Error).message})`, { cause: error });
  }
  const curve = Float32Array.from({ length: 256 }, (_, i) =>
    colourSpace === 'srgb' ? linearFromSrgb(i / 255) : i / 255,
  );
  return {
    width: image.width,
    height: image.height,
    texels: Float32Array.from(image.data, (v) => curve[v]),
    alpha: null,
    colourSpace,
  };
}
