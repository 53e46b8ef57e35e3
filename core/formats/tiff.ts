/** TIFF pictures of 8, 16 and 32 bits, whole numbers or floats, through geotiff. Source: TIFF 6.0. */
import { fromArrayBuffer } from 'geotiff';
import { linearFromSrgb } from '../data/colour.ts';

const MOST_PIXELS = 2 ** 28;
const NAMES = ['R', 'G', 'B', 'A'];

export interface TiffPicture {
  width: number;
  height: number;
  /** Linear; whole numbers are taken for display values in sRGB. */
  planes: Map<string, Float32Array>;
  type: 'float' | 'uint';
}

/** @param where the file's name in messages. Rejects with a RangeError that says what is wrong with the bytes. */
export async function readTiff(bytes: Uint8Array, where: string): Promise<TiffPicture> {
  try {
    const file = await fromArrayBuffer(bytes.slice().buffer);
    const image = await file.getImage();
    const [width, height, samples] = [image.getWidth(), image.getHeight(), image.getSamplesPerPixel()];
    if (!(width * height > 0) || width * height > MOST_PIXELS)
      throw new RangeError(`states ${width} × ${height} pixels, which cannot be`);
    if (!(samples >= 1 && samples <= 64)) throw new RangeError(`has ${samples} samples a pixel; 1 to 64 are read`);
    // A compressed file may hold much more than its size, but not without end.
    if (width * height * samples > Math.max(bytes.length, 1024) * 2 ** 11)
      throw new RangeError(`states ${width} × ${height} pixels, which ${bytes.length} bytes cannot hold`);
    const isFloat = image.getSampleFormat() === 3;
    const rasters = (await image.readRasters({ interleave: false })) as unknown as ArrayLike<number>[];
    const top = 2 ** image.getBitsPerSample() - 1;
    const linear = (value: number, isAlpha: boolean) => (isFloat ? value : isAlpha ? value / top : linearFromSrgb(value / top)); // prettier-ignore
    const planes = new Map<string, Float32Array>();
    const plane = (c: number, isAlpha = false) => Float32Array.from(rasters[c], (value) => linear(value, isAlpha));
    if (samples < 3) {
      const grey = plane(0);
      for (const name of NAMES.slice(0, 3)) planes.set(name, grey);
      if (samples === 2) planes.set('A', plane(1, true));
    } else for (let c = 0; c < Math.min(samples, 4); c++) planes.set(NAMES[c], plane(c, c === 3));
    return { width, height, planes, type: isFloat ? 'float' : 'uint' };
  } catch (error) {
    throw new RangeError(`${where}: is not a readable TIFF (${(error as Error).message})`, { cause: error });
  }
}
