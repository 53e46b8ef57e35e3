/** TIFF pictures of 8 and 16 bits and of 32-bit floats, through image-js's tiff. Source: TIFF 6.0. */
import { MOST_PIXELS } from '../data/limits.ts';
import { decode, type TiffIfd } from 'tiff';
import { linearFromSrgb, srgbFromLinear } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

/** No packing makes so much of one byte. */
const MOST_RATIO = 2 ** 11;
const NAMES = ['R', 'G', 'B', 'A'];
const FLOAT = 3;

export interface TiffPicture {
  width: number;
  height: number;
  /** Linear; whole numbers are taken for display values in sRGB. */
  planes: Map<string, Float32Array>;
  type: 'float' | 'uint';
}

/** @param colourSpace of whole numbers; floats are linear. @param where the file's name in messages. Throws a RangeError, see `readTiff` */
export function readTiffTexture(bytes: Uint8Array, colourSpace: 'srgb' | 'linear', where: string): Texture {
  const { width, height, planes, type } = readTiff(bytes, where);
  const colours = NAMES.slice(0, 3).map((name) => planes.get(name)!);
  const isCurved = type === 'uint' && colourSpace === 'linear';
  const texels = new Float32Array(width * height * 3);
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) texels[i * 3 + c] = isCurved ? srgbFromLinear(colours[c][i]) : colours[c][i];
  return { width, height, texels, alpha: planes.get('A') ?? null, ...(type === 'uint' ? { colourSpace } : {}) };
}

/** @param where the file's name in messages. Throws a RangeError that says what is wrong with the bytes. */
export function readTiff(bytes: Uint8Array, where: string): TiffPicture {
  try {
    const plain = withPlainAlpha(bytes);
    const [header] = decode(plain, { ignoreImageData: true, pages: [0] });
    checkSize(header, bytes.length);
    const [image] = decode(plain, { pages: [0] });
    return toPlanes(image);
  } catch (error) {
    throw new RangeError(`${where}: is not a readable TIFF (${tell((error as Error).message)})`, { cause: error });
  }
}

function checkSize({ width, height, samplesPerPixel }: TiffIfd, bytes: number): void {
  const values = width * height * samplesPerPixel;
  if (!(values > 0) || width * height > MOST_PIXELS)
    throw new RangeError(`states ${width} × ${height} pixels, which cannot be`);
  if (samplesPerPixel > 64) throw new RangeError(`has ${samplesPerPixel} samples per pixel; up to 64 are read`);
  if (values > Math.max(bytes, 1024) * MOST_RATIO)
    throw new RangeError(`states ${width} × ${height} pixels, which ${bytes} bytes cannot hold`);
}

function toPlanes({
  width,
  height,
  samplesPerPixel,
  sampleFormat,
  bitsPerSample,
  palette,
  data,
}: TiffIfd): TiffPicture {
  if (palette) throw new RangeError('its pixels are numbers of a palette, which is not read');
  const isFloat = sampleFormat === FLOAT;
  const top = 2 ** bitsPerSample - 1;
  const planes = new Map<string, Float32Array>();
  const plane = (c: number, isAlpha: boolean) =>
    Float32Array.from({ length: width * height }, (_, i) => {
      const value = data[i * samplesPerPixel + c];
      return isFloat ? value : isAlpha ? value / top : linearFromSrgb(value / top);
    });
  if (samplesPerPixel < 3) {
    const grey = plane(0, false);
    for (const name of NAMES.slice(0, 3)) planes.set(name, grey);
    if (samplesPerPixel === 2) planes.set('A', plane(1, true));
  } else for (let c = 0; c < Math.min(samplesPerPixel, 4); c++) planes.set(NAMES[c], plane(c, c === 3));
  return { width, height, planes, type: isFloat ? 'float' : 'uint' };
}

const EXTRA_SAMPLES = 338;
const UNSPECIFIED = 0;

/** A copy whose alpha is not said to be multiplied in: the decoder would divide it out, in whole numbers. */
function withPlainAlpha(bytes: Uint8Array): Uint8Array {
  // Not by `slice`, which copies nothing of a Buffer of Node.
  const copy = new Uint8Array(bytes);
  if (copy.length < 8) return copy;
  const view = new DataView(copy.buffer);
  const little = view.getUint16(0) === 0x4949;
  const directory = view.getUint32(4, little);
  if (directory + 2 > copy.length) return copy;
  const count = view.getUint16(directory, little);
  for (let i = 0; i < count; i++) {
    const at = directory + 2 + i * 12;
    if (at + 12 > copy.length) return copy;
    if (view.getUint16(at, little) === EXTRA_SAMPLES) view.setUint16(at + 8, UNSPECIFIED, little);
  }
  return copy;
}

const tell = (message: string): string =>
  message === 'invalid predictor: 3' ? 'its floats are packed as differences, predictor 3, which is not read' : message;
