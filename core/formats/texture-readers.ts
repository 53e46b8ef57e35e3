/** The image formats that textures come in, by the file's ending. Another one is a file and a line here. */
import type { Texture } from '../data/texture.ts';
import { readExrTexture } from './exr-texture.ts';
import { readHdrTexture } from './hdr.ts';
import { readJpegTexture } from './jpeg.ts';
import { extensionOf } from './paths.ts';
import { readPfmTexture } from './pfm.ts';
import { readPngTexture } from './png.ts';
import { readTiffTexture } from './tiff.ts';

type ReadTexture = (bytes: Uint8Array, colourSpace: 'srgb' | 'linear', where: string) => Texture;

/** Floating-point images are linear whatever is said of them. */
const READERS: Record<string, ReadTexture> = {
  png: readPngTexture,
  jpg: readJpegTexture,
  jpeg: readJpegTexture,
  hdr: (bytes, _colourSpace, where) => readHdrTexture(bytes, where),
  exr: (bytes, _colourSpace, where) => readExrTexture(bytes, where),
  tif: readTiffTexture,
  tiff: readTiffTexture,
  pfm: (bytes, _colourSpace, where) => readPfmTexture(bytes, where),
};

/** Throws a RangeError that names the file and says what is wrong with it. */
export const readTexture: ReadTexture = (bytes, colourSpace, where) =>
  (READERS[extensionOf(where)] ?? readPngTexture)(bytes, colourSpace, where);
