/** RLE: runs of bytes, over bytes in another order. Source: the OpenEXR file layout document. */
import type { Unpack } from './compression.ts';

export const unpackRle: Unpack = ({ bytes, size, restore }) => restore(unpackRuns(bytes, size));

/** A count below 0 is of bytes as they are, from 0 on of one byte again and again, one more than it says. */
export function unpackRuns(bytes: Uint8Array, size: number): Uint8Array {
  const out = new Uint8Array(size);
  let to = 0;
  for (let at = 0; at < bytes.length;) {
    const count = (bytes[at++] << 24) >> 24;
    if (count < 0) {
      if (at - count > bytes.length || to - count > size) throw new RangeError('a run leads beyond the chunk');
      out.set(bytes.subarray(at, at - count), to);
      at -= count;
      to -= count;
    } else {
      if (at >= bytes.length || to + count + 1 > size) throw new RangeError('a run leads beyond the chunk');
      out.fill(bytes[at++], to, to + count + 1);
      to += count + 1;
    }
  }
  if (to !== size) throw new RangeError(`${to} bytes came out of a chunk of ${size}`);
  return out;
}
