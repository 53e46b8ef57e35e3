/** Every way of packing that is read. Another one is a file and a line here. */
import type { ExrCompression } from '../header.ts';
import { unpackB44 } from './b44.ts';
import { needSize, type Unpack } from './compression.ts';
import { unpackDwa } from './dwa.ts';
import { unpackPiz } from './piz.ts';
import { unpackPxr24 } from './pxr24.ts';
import { unpackRle } from './rle.ts';
import { unpackZip } from './zip.ts';

export const UNPACK: Record<ExrCompression, Unpack> = {
  none: ({ bytes, size }) => needSize(bytes, size),
  RLE: unpackRle,
  ZIPS: unpackZip,
  ZIP: unpackZip,
  PIZ: unpackPiz,
  PXR24: unpackPxr24,
  B44: unpackB44,
  B44A: unpackB44,
  DWAA: unpackDwa,
  DWAB: unpackDwa,
};
