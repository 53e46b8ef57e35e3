/**
 * KTX 2 textures of glTF scenes, unpacked as they come in and stored as PNG: a texture that was packed for a graphics card is an
 * image of 8 bits like any other. Sources: Khronos, KTX File Format 2.0, section 3.1 (identifier) and 3 (header);
 * KHR_texture_basisu. The host unpacks them.
 *
 * @example
 * if (isKtx2(bytes)) image.bytes = pngOfKtx2(bytes, await ktx2Transcoder(), 'tex/wood.ktx2');
 */
import { MOST_PIXELS } from '../data/limits.ts';
import { writePng } from './png.ts';

/** The first level of a texture. */
export interface Ktx2Image {
  width: number;
  height: number;
  /** R, G, B and A of a pixel, 8 bits each, rows from the top. */
  values: Uint8Array;
}

/** @throws RangeError that says what is wrong with the bytes */
export type TranscodeKtx2 = (bytes: Uint8Array) => Ktx2Image;

const IDENTIFIER = [0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a];
/** Where the header states width and height. */
const SIZE_AT = 20;

export const isKtx2 = (bytes: Uint8Array): boolean => IDENTIFIER.every((byte, i) => bytes[i] === byte);

/** @param where the file's name in messages. @throws RangeError */
export function pngOfKtx2(bytes: Uint8Array, transcode: TranscodeKtx2, where: string): Uint8Array {
  // Before the transcoder takes memory for it.
  const [width, height] = bytes.length < SIZE_AT + 8 ? [0, 0] : sizeIn(bytes);
  if (!(width * height > 0) || width * height > MOST_PIXELS)
    throw new RangeError(`${where}: states ${width} × ${height} pixels, which cannot be`);
  let image: Ktx2Image;
  try {
    image = transcode(bytes);
  } catch (error) {
    throw new RangeError(`${where}: ${error instanceof RangeError ? error.message : 'cannot be unpacked: export it again, or as PNG'}`, { cause: error }); // prettier-ignore
  }
  // The header says it of files without any, too.
  return writePng(image.width, image.height, isOpaque(image.values) ? coloursOf(image.values) : image.values);
}

function isOpaque(values: Uint8Array): boolean {
  for (let i = 3; i < values.length; i += 4) if (values[i] < 255) return false;
  return true;
}

function coloursOf(values: Uint8Array): Uint8Array {
  const colours = new Uint8Array((values.length / 4) * 3);
  for (let i = 0; i < colours.length; i++) colours[i] = values[Math.floor(i / 3) * 4 + (i % 3)];
  return colours;
}

function sizeIn(bytes: Uint8Array): [number, number] {
  const view = new DataView(bytes.buffer, bytes.byteOffset + SIZE_AT, 8);
  return [view.getUint32(0, true), view.getUint32(4, true)];
}
