/**
 * A picture as bytes for the way to a page: a line of JSON that says what is there, padded to whole
 * 32-bit words, then the planes as little-endian 32-bit floats in the order of the names.
 *
 * @example
 * const bytes = packPicture(picture, { revision: 12 });
 * const { picture: same, facts } = unpackPicture(bytes);
 */
import type { Picture } from '../data/picture.ts';

export interface PictureFacts {
  /** Revision of the render that the picture shows. */
  revision: number;
}

export function packPicture({ width, height, x, y, channels }: Picture, facts: PictureFacts): Uint8Array {
  const names = [...channels.keys()];
  const header = new TextEncoder().encode(JSON.stringify({ width, height, x, y, names, facts }));
  const start = 4 + Math.ceil(header.length / 4) * 4;
  const bytes = new Uint8Array(start + names.length * width * height * 4);
  new DataView(bytes.buffer).setUint32(0, header.length, true);
  bytes.set(header, 4);
  names.forEach((name, i) =>
    new Float32Array(bytes.buffer, start + i * width * height * 4, width * height).set(channels.get(name)!),
  );
  return bytes;
}

/** Throws a RangeError when the bytes are not whole. */
export function unpackPicture(bytes: ArrayBuffer): { picture: Picture; facts: PictureFacts } {
  const length = bytes.byteLength >= 4 ? new DataView(bytes).getUint32(0, true) : Infinity;
  if (4 + length > bytes.byteLength) throw new RangeError(`a picture of ${bytes.byteLength} bytes is cut off`);
  const { width, height, x, y, names, facts } = JSON.parse(
    new TextDecoder().decode(new Uint8Array(bytes, 4, length)),
  ) as Omit<Picture, 'channels'> & { names: string[]; facts: PictureFacts };
  const start = 4 + Math.ceil(length / 4) * 4;
  const size = width * height;
  if (start + names.length * size * 4 !== bytes.byteLength)
    throw new RangeError(`a picture of ${bytes.byteLength} bytes is cut off`);
  const channels = new Map(names.map((name, i) => [name, new Float32Array(bytes, start + i * size * 4, size)]));
  return { picture: { width, height, x, y, channels }, facts };
}
