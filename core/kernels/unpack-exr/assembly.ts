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
