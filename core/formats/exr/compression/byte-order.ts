/**
 * What ZIP and RLE do before they pack: bytes as differences from the one before (and 128), the even ones of all
 * first and the odd ones after them. Source: the OpenEXR file layout document.
 *
 * Undone four bytes at a time: bytes 0 and 2 of a word stand in two lanes of 16 bits, 1 and 3 in two more, so that sums
 * of all four take a few additions.
 */
const LANES = 0x00ff00ff;
/** 128 more for each of four bytes, which is the same as 128 less. */
const OFFSET = 0x80808080 | 0;

/** @param packed bytes of one chunk; where it is not aligned it is copied */
export function restored(packed: Uint8Array): Uint8Array {
  const { length } = packed;
  const out = new Uint8Array(length);
  const half = (length + 1) >> 1;
  const pairs = length >> 1;
  const words = pairs >> 2;
  const even = wordsOf(packed, 0, words);
  const odd = wordsOf(packed, half, words);
  // The odd bytes go on where the even ones end. The first byte stands for itself.
  const sums = together(even, odd, new Int32Array(out.buffer, 0, words * 2), 128, (sumOf(packed, half) + half * 128 + 128) & 255); // prettier-ignore
  let [low, high] = [sums & 255, sums >> 8];
  for (let i = words * 4; i < pairs; i++) {
    out[i * 2] = low = (low + packed[i] + 128) & 255;
    out[i * 2 + 1] = high = (high + packed[half + i] + 128) & 255;
  }
  if (length & 1) out[length - 1] = (low + packed[half - 1] + 128) & 255;
  return out;
}

function wordsOf(bytes: Uint8Array, from: number, words: number): Int32Array {
  const at = bytes.byteOffset + from;
  return at & 3 ? new Int32Array(bytes.slice(from, from + words * 4).buffer) : new Int32Array(bytes.buffer, at, words);
}

function sumOf(bytes: Uint8Array, end: number): number {
  let sum = 0;
  for (let i = 0; i < end; i++) sum += bytes[i];
  return sum & 255;
}

/** @returns the last sums, the even one in the low byte */
function together(even: Int32Array, odd: Int32Array, out: Int32Array, fromEven: number, fromOdd: number): number {
  let low = fromEven;
  let high = fromOdd;
  for (let i = 0; i < even.length; i++) {
    const a = even[i] ^ OFFSET;
    const b = odd[i] ^ OFFSET;
    // Bytes 0 and 2, sums of 0 and 1 and of 2 and 3, and from them the sums up to each byte.
    const a02 = a & LANES;
    const b02 = b & LANES;
    const aPairs = (a02 + ((a >>> 8) & LANES)) & LANES;
    const bPairs = (b02 + ((b >>> 8) & LANES)) & LANES;
    const pe = (a02 + (aPairs << 16) + low * 0x10001) & LANES;
    const po = (aPairs + (aPairs << 16) + low * 0x10001) & LANES;
    const qe = (b02 + (bPairs << 16) + high * 0x10001) & LANES;
    const qo = (bPairs + (bPairs << 16) + high * 0x10001) & LANES;
    out[i * 2] = (pe & 0xffff) | (po << 16) | (((qe & 0xffff) | (qo << 16)) << 8);
    out[i * 2 + 1] = (pe >>> 16) | (po & 0xff0000) | (((qe >>> 16) | (qo & 0xff0000)) << 8);
    low = po >>> 16;
    high = qo >>> 16;
  }
  return low | (high << 8);
}
