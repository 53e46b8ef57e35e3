/**
 * Textures of KTX 2 files with Basis Universal inside, for Node: the transcoder that three.js keeps, made when a file first needs it.
 * It is a script for pages that names no export, and is run as what it is.
 */
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { compileFunction } from 'node:vm';
import type { Ktx2Image, TranscodeKtx2 } from '../core/formats/ktx2.ts';

interface Ktx2File {
  isValid(): boolean;
  isHDR(): boolean;
  getImageLevelInfo(level: number, layer: number, face: number): { origWidth: number; origHeight: number };
  getImageTranscodedSizeInBytes(level: number, layer: number, face: number, format: number): number;
  startTranscoding(): number;
  transcodeImage(into: Uint8Array, level: number, layer: number, face: number, format: number, unused: number, channel0: number, channel1: number): number; // prettier-ignore
  close(): void;
  delete(): void;
}

interface Basis {
  initializeBasis(): void;
  KTX2File: new (bytes: Uint8Array) => Ktx2File;
}

/** 8 bits each of R, G, B and A, of `transcoder_texture_format`. */
const RGBA32 = 13;

let made: Promise<Basis> | null = null;

export const ktx2Transcoder = async (): Promise<TranscodeKtx2> => {
  const basis = await (made ??= start());
  return (bytes) => transcode(basis, bytes);
};

async function start(): Promise<Basis> {
  const place = (ending: string) => new URL(import.meta.resolve(`three/examples/jsm/libs/basis/basis_transcoder.${ending}`)); // prettier-ignore
  const script = readFileSync(place('js'), 'utf8');
  // Without a process it takes itself to be in a page, and asks for nothing but what it is given.
  const begin = compileFunction(`${script}\nreturn BASIS;`, ['process', 'document', '__filename']) as (process: undefined) => (given: object) => Promise<Basis>; // prettier-ignore
  const basis = await begin(undefined)({ wasmBinary: readFileSync(fileURLToPath(place('wasm'))) });
  basis.initializeBasis();
  return basis;
}

function transcode({ KTX2File }: Basis, bytes: Uint8Array): Ktx2Image {
  const file = new KTX2File(bytes);
  try {
    if (!file.isValid())
      throw new RangeError('holds no Basis Universal texture, or is cut off: export it again, or as PNG');
    if (file.isHDR()) throw new RangeError('is of high dynamic range, which is not read from KTX 2: export it as EXR');
    const { origWidth: width, origHeight: height } = file.getImageLevelInfo(0, 0, 0);
    const values = new Uint8Array(file.getImageTranscodedSizeInBytes(0, 0, 0, RGBA32));
    if (!file.startTranscoding() || !file.transcodeImage(values, 0, 0, 0, RGBA32, 0, -1, -1))
      throw new RangeError('cannot be unpacked: export it again, or as PNG');
    return { width, height, values };
  } finally {
    file.close();
    file.delete();
  }
}
