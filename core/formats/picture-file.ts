/**
 * Any picture that can be read, in one form: parts with windows, channels and planes. EXR brings many parts and
 * channels; the others one part of R, G and B, and alpha where they have it.
 *
 * @example
 * const { format, parts } = await readPictureFile(bytes, 'lantern.1001.exr', { inflate });
 */
import { readExr, type ExrPlane } from './exr/read.ts';
import type { ExrType, ExrValue, ExrWindow } from './exr/header.ts';
import type { ExrMeans } from './exr/unpack-kernel.ts';
import type { Inflate } from './exr/compression/compression.ts';
import { readHdrTexture } from './hdr.ts';
import { readJpegTexture } from './jpeg.ts';
import { extensionOf } from './paths.ts';
import { readPfmTexture } from './pfm.ts';
import { readPngTexture } from './png.ts';
import { PICTURE_ENDINGS, sameEnding } from './picture-names.ts';
import { readTiff } from './tiff.ts';
import type { Texture } from '../data/texture.ts';

export interface PicturePart {
  /** Empty where there is but one. */
  name: string;
  compression: string;
  dataWindow: ExrWindow;
  displayWindow: ExrWindow;
  pixelAspect: number;
  channels: { name: string; type: ExrType }[];
  attributes: Record<string, ExrValue>;
  /** Deep pixels hold lists of samples, which are not read. */
  isDeep: boolean;
  /** Columns and rows of the data window. */
  width: number;
  height: number;
  planes: Map<string, ExrPlane>;
  /** Chunks that are not there: their pixels are 0. */
  missingChunks: number;
  /** Sentences about chunks that could not be read, the first few. */
  broken: string[];
}

export interface PictureFile {
  format: string;
  /** Whether its values were made for a display, and came through a curve: nothing is above white. */
  isForDisplay: boolean;
  parts: PicturePart[];
}

type ReadFlat = (bytes: Uint8Array, where: string) => Promise<{ planes: Map<string, Float32Array>; width: number; height: number; type: ExrType }>; // prettier-ignore

const fromTexture =
  (read: (bytes: Uint8Array, where: string) => Texture, type: ExrType): ReadFlat =>
  async (bytes, where) => {
    const { width, height, texels, alpha } = read(bytes, where);
    const planes = new Map<string, Float32Array>();
    ['R', 'G', 'B'].forEach((name, c) =>
      planes.set(
        name,
        Float32Array.from({ length: width * height }, (_, i) => texels[i * 3 + c]),
      ),
    );
    if (alpha) planes.set('A', alpha);
    return { width, height, planes, type };
  };

/** Formats of one part, by the file's ending. Another one is a file, a line here and one in `picture-names.ts`. */
const FLAT: Record<string, { format: string; read: ReadFlat }> = {
  hdr: { format: 'Radiance HDR', read: fromTexture(readHdrTexture, 'float') },
  pfm: { format: 'PFM', read: fromTexture(readPfmTexture, 'float') },
  png: { format: 'PNG', read: fromTexture((bytes, where) => readPngTexture(bytes, 'stated', where), 'uint') },
  jpg: { format: 'JPEG', read: fromTexture((bytes, where) => readJpegTexture(bytes, 'srgb', where), 'uint') },
  tif: { format: 'TIFF', read: async (bytes, where) => readTiff(bytes, where) },
};

/** @param where the file's name, whose ending tells the format. Rejects with a RangeError that names the file */
export async function readPictureFile(
  bytes: Uint8Array,
  where: string,
  { inflate, means, want }: { inflate: Inflate; means?: ExrMeans; want?: (channel: string) => boolean },
): Promise<PictureFile> {
  const ending = extensionOf(where);
  if (ending === 'exr') {
    const { parts } = readExr(bytes, where, { inflate, means, want: want && ((_part, channel) => want(channel)) });
    return { format: 'OpenEXR', isForDisplay: false, parts };
  }
  const flat = FLAT[sameEnding(ending)];
  if (!flat) throw new RangeError(`${where}: cannot be read as a picture; ${PICTURE_ENDINGS.join(', ')} can`);
  const { width, height, planes, type } = await flat.read(bytes, where);
  const window = { minX: 0, minY: 0, maxX: width - 1, maxY: height - 1 };
  const part: PicturePart = {
    name: '',
    compression: '',
    dataWindow: window,
    displayWindow: window,
    pixelAspect: 1,
    channels: [...planes.keys()].map((name) => ({ name, type })),
    attributes: {},
    isDeep: false,
    width,
    height,
    planes,
    missingChunks: 0,
    broken: [],
  };
  return { format: flat.format, isForDisplay: type === 'uint', parts: [part] };
}
