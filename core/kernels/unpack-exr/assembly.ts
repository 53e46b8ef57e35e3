/**
 * What EXR files have every byte of go through, compiled to WebAssembly with SIMD: bytes put back in order (the twin of
 * `core/formats/exr/compression/byte-order.ts`, byte for byte) and halves widened to floats.
 *
 * Source: the OpenEXR file layout document; half numbers by IEEE 754-2008.
 */

/** 128 more for each of sixteen bytes, which is the same as 128 less. */
// @ts-ignore: decorator
@inline
function offset(): v128 {
  return i8x16.splat(-128);
}

/** Sums of bytes from the first on, in place: sixteen at a time, by steps of one, two, four and eight lanes. */
function sumUp(at: usize, length: i32): void {
  const zero = i8x16.splat(0);
  // The first byte stands for itself.
  let carry = offset();
  let i: i32 = 0;
  for (; i + 16 <= length; i += 16) {
    const p = at + <usize>i;
    let v = v128.xor(v128.load(p), offset());
    v = i8x16.add(v, i8x16.shuffle(zero, v, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27, 28, 29, 30));
    v = i8x16.add(v, i8x16.shuffle(zero, v, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27, 28, 29));
    v = i8x16.add(v, i8x16.shuffle(zero, v, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27));
    v = i8x16.add(v, i8x16.shuffle(zero, v, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23));
    v = i8x16.add(v, carry);
    v128.store(p, v);
    carry = i8x16.shuffle(v, v, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15, 15);
  }
  let last: i32 = i8x16.extract_lane_u(carry, 0);
  for (; i < length; i++) {
    last = (last + <i32>load<u8>(at + <usize>i) + 128) & 255;
    store<u8>(at + <usize>i, <u8>last);
  }
}

/** Bytes of one chunk in order. @param from packed ones, which are spent. @param to as many bytes, elsewhere */
export function restore(from: usize, to: usize, length: i32): void {
  sumUp(from, length);
  const half: i32 = (length + 1) >> 1;
  const pairs: i32 = length >> 1;
  const odd = from + <usize>half;
  let i: i32 = 0;
  for (; i + 16 <= pairs; i += 16) {
    const a = v128.load(from + <usize>i);
    const b = v128.load(odd + <usize>i);
    const p = to + <usize>(2 * i);
    v128.store(p, i8x16.shuffle(a, b, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23));
    v128.store(p + 16, i8x16.shuffle(a, b, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31));
  }
  for (; i < pairs; i++) {
    store<u8>(to + <usize>(2 * i), load<u8>(from + <usize>i));
    store<u8>(to + <usize>(2 * i + 1), load<u8>(odd + <usize>i));
  }
  if (length & 1) store<u8>(to + <usize>(length - 1), load<u8>(from + <usize>(half - 1)));
}

// @ts-ignore: decorator
@inline
function widened(h: v128): v128 {
  const sign = i32x4.shl(v128.and(h, i32x4.splat(0x8000)), 16);
  const em = v128.and(h, i32x4.splat(0x7fff));
  // The exponent's bias is 112 more; of infinity and NaN it is so twice.
  const bias = i32x4.splat(0x38000000);
  const plain = i32x4.add(i32x4.shl(em, 13), bias);
  const normal = i32x4.add(plain, v128.and(i32x4.ge_s(em, i32x4.splat(0x7c00)), bias));
  // Subnormal halves are whole numbers of 2⁻²⁴; no subnormal float is ever worked with, which would be slow.
  const small = f32x4.mul(f32x4.convert_i32x4_s(em), f32x4.splat(5.9604644775390625e-8));
  return v128.or(v128.bitselect(small, normal, i32x4.lt_s(em, i32x4.splat(0x400))), sign);
}

/** Halves to floats. Up to seven halves and floats beyond the last are read and written. @param count of halves */
export function widen(from: usize, to: usize, count: i32): void {
  for (let i: i32 = 0; i < count; i += 8) {
    const h = v128.load(from + <usize>(2 * i));
    const p = to + <usize>(4 * i);
    v128.store(p, widened(i32x4.extend_low_i16x8_u(h)));
    v128.store(p + 16, widened(i32x4.extend_high_i16x8_u(h)));
  }
}

// Tables of codes: for each of their first 14 bits what they stand for × 256 + their length, then by length the first code,
// its place and their number as doubles, then what codes stand for, sorted.
const FAST_BITS: i32 = 14;
const LENGTHS: usize = 59;
const FIRST_CODE: usize = 65536;
const FIRST_PLACE: usize = FIRST_CODE + LENGTHS * 8;
const COUNTS: usize = FIRST_PLACE + LENGTHS * 8;
const SORTED: usize = COUNTS + LENGTHS * 8 + 8;

const NO_VALUE: i32 = 1;
const TOO_FEW: i32 = 2;
const TOO_LONG: i32 = 3;

/**
 * Follows Huffman codes from \`from\` to \`end\` to \`count\` values of 16 bits. The next bits stand at the top of 64, filled up
 * whole bytes at a time; beyond the end there are zeros, which no code may live on, since its bits are counted.
 */
export function followCodes(
  from: usize,
  end: usize,
  bits: u32,
  tables: usize,
  longest: i32,
  runSymbol: i32,
  to: usize,
  count: i32,
): i32 {
  const first = to;
  const last = to + ((<usize>count) << 1);
  let at = from;
  let held: u64 = 0;
  let have: i32 = 0;
  while (to < last) {
    if (at + 8 <= end) {
      held |= bswap<u64>(load<u64>(at)) >> <u64>have;
      at += <usize>((63 - have) >> 3);
      have |= 56;
    } else {
      while (have <= 56) {
        if (at < end) held |= <u64>load<u8>(at) << <u64>(56 - have);
        at += 1;
        have += 8;
      }
    }
    const entry = load<u32>(tables + <usize>((held >> (64 - FAST_BITS)) << 2));
    let length = <i32>(entry & 255);
    let symbol = <i32>(entry >> 8);
    if (length === 0) {
      // A longer code, a bit more at a time; longer codes come before shorter ones.
      for (length = FAST_BITS + 1; ; length++) {
        if (length > longest) return NO_VALUE;
        const code = <f64>(held >> <u64>(64 - length));
        const n = tables + ((<usize>length) << 3);
        const firstCode = load<f64>(n + FIRST_CODE);
        if (code < firstCode || code >= firstCode + load<f64>(n + COUNTS)) continue;
        symbol = load<i32>(tables + SORTED + (<usize>(load<f64>(n + FIRST_PLACE) + code - firstCode) << 2));
        break;
      }
    }
    held <<= <u64>length;
    have -= length;
    if (<u64>(at - from) * 8 - <u64>have > <u64>bits) return TOO_FEW;
    if (symbol !== runSymbol) {
      store<u16>(to, <u16>symbol);
      to += 2;
      continue;
    }
    const run = <usize>(held >> 56);
    held <<= 8;
    have -= 8;
    if (to === first || to + (run << 1) > last) return TOO_LONG;
    const value = load<u16>(to - 2);
    for (let k: usize = 0; k < run; k++, to += 2) store<u16>(to, value);
  }
  return 0;
}

/** Undoes the wavelet of a plane in place; steps in values. */
export function undoWavelet(data: usize, nx: i32, ox: i32, ny: i32, oy: i32, fits: bool): void {
  const least = nx < ny ? nx : ny;
  let p: i32 = 1;
  while (p <= least) p <<= 1;
  // From the coarsest level down.
  for (p >>= 2; p >= 1; p >>= 1) {
    const x1 = (<usize>(ox * p)) << 1;
    const y1 = (<usize>(oy * p)) << 1;
    let row = data;
    let y = 0;
    for (; y <= ny - p * 2; y += p * 2, row += y1 * 2) {
      let at = row;
      let x = 0;
      for (; x <= nx - p * 2; x += p * 2, at += x1 * 2) {
        if (fits) {
          fitting(at, at + y1);
          fitting(at + x1, at + x1 + y1);
          fitting(at, at + x1);
          fitting(at + y1, at + y1 + x1);
        } else {
          wrapping(at, at + y1);
          wrapping(at + x1, at + x1 + y1);
          wrapping(at, at + x1);
          wrapping(at + y1, at + y1 + x1);
        }
      }
      if (nx & p) pair(at, at + y1, fits);
    }
    if (ny & p) {
      let at = row;
      for (let x = 0; x <= nx - p * 2; x += p * 2, at += x1 * 2) pair(at, at + x1, fits);
    }
  }
}

function pair(a: usize, b: usize, fits: bool): void {
  if (fits) fitting(a, b);
  else wrapping(a, b);
}

/** A mean and a difference back to two values. */
// @ts-ignore: decorator
@inline
function fitting(a: usize, b: usize): void {
  const difference = <i32>load<i16>(b);
  const first = <i32>load<i16>(a) + (difference & 1) + (difference >> 1);
  store<u16>(a, <u16>first);
  store<u16>(b, <u16>(first - difference));
}

// @ts-ignore: decorator
@inline
function wrapping(a: usize, b: usize): void {
  const high = <i32>load<u16>(b);
  const second = (<i32>load<u16>(a) - (high >> 1)) & 0xffff;
  store<u16>(b, <u16>second);
  store<u16>(a, <u16>((high + second - 0x8000) & 0xffff));
}

/** Numbers of values to the values themselves. */
export function renumber(data: usize, count: i32, values: usize): void {
  const last = data + ((<usize>count) << 1);
  for (let at = data; at < last; at += 2) store<u16>(at, load<u16>(values + ((<usize>load<u16>(at)) << 1)));
}
