/** zlib streams through Node's own, for the core; what is wrong with one is a RangeError. */
import { constants, inflateSync } from 'node:zlib';

/** @param most bytes that may come out */
export function inflate(bytes: Uint8Array, most: number): Uint8Array {
  try {
    const out = inflateSync(bytes, { maxOutputLength: Math.max(1, most), chunkSize: Math.max(64, most), finishFlush: constants.Z_FINISH }); // prettier-ignore
    return new Uint8Array(out.buffer, out.byteOffset, out.byteLength);
  } catch (error) {
    throw new RangeError(`its bytes cannot be unpacked (${(error as Error).message})`, { cause: error });
  }
}
