/**
 * What every value of a picture is measured by, compiled to WebAssembly with SIMD: figures of channels, luminance, and whether
 * passes add up. The twin of `core/picture/plane-means.ts`, bit for bit; sums in doubles, four of them side by side.
 *
 * A block of values at a time stands in memory: `core/picture/plane-kernel.ts` says where.
 */

/** By sign and exponent of a float; four tables, so that equal values next to each other do not wait for each other. */
const BINS: i32 = 512;
/** Of the sums of a channel, in bytes from their beginning: four doubles of the sum, four floats each of least and most. */
const LEAST: usize = 32;
const MOST: usize = 48;
const NEGATIVE: usize = 64;
const CLIPPED: usize = 80;
/** Zeros with a plus, which are counted with the smallest positive values. */
const ZERO: usize = 96;

/**
 * Adds a block of finite values to the sums of a channel.
 *
 * @param count a multiple of four. @param end values from it on are clipped
 * @returns how many values went in: fewer than `count` where the next four hold one that is not finite
 */
export function channelSums(from: usize, count: i32, end: f32, sums: usize, bins: usize): i32 {
  let first = v128.load(sums);
  let second = v128.load(sums + 16);
  let least = v128.load(sums + LEAST);
  let most = v128.load(sums + MOST);
  let negative = v128.load(sums + NEGATIVE);
  let clipped = v128.load(sums + CLIPPED);
  let zero = v128.load(sums + ZERO);
  const none = f32x4.splat(0);
  const last = f32x4.splat(end);
  const own: usize = <usize>(BINS * 4);
  let i: i32 = 0;
  for (; i < count; i += 4) {
    const v = v128.load(from + (<usize>i << 2));
    if (!i32x4.all_true(f32x4.eq(f32x4.sub(v, v), none))) break;
    first = f64x2.add(first, f64x2.promote_low_f32x4(v));
    second = f64x2.add(second, f64x2.promote_low_f32x4(i8x16.shuffle(v, v, 8, 9, 10, 11, 12, 13, 14, 15, 8, 9, 10, 11, 12, 13, 14, 15))); // prettier-ignore
    least = f32x4.pmin(least, v);
    most = f32x4.pmax(most, v);
    // A comparison that holds is −1.
    negative = i32x4.sub(negative, f32x4.lt(v, none));
    clipped = i32x4.sub(clipped, f32x4.ge(v, last));
    zero = i32x4.sub(zero, i32x4.eq(v, i32x4.splat(0)));
    const bin = i32x4.shl(i32x4.shr_u(v, 23), 2);
    const a = bins + <usize>i32x4.extract_lane(bin, 0);
    const b = bins + own + <usize>i32x4.extract_lane(bin, 1);
    const c = bins + own * 2 + <usize>i32x4.extract_lane(bin, 2);
    const d = bins + own * 3 + <usize>i32x4.extract_lane(bin, 3);
    store<i32>(a, load<i32>(a) + 1);
    store<i32>(b, load<i32>(b) + 1);
    store<i32>(c, load<i32>(c) + 1);
    store<i32>(d, load<i32>(d) + 1);
  }
  v128.store(sums, first);
  v128.store(sums + 16, second);
  v128.store(sums + LEAST, least);
  v128.store(sums + MOST, most);
  v128.store(sums + NEGATIVE, negative);
  v128.store(sums + CLIPPED, clipped);
  v128.store(sums + ZERO, zero);
  return i;
}

// @ts-ignore: decorator
@inline
function weighed(r: v128, g: v128, b: v128): v128 {
  const two = f64x2.add(f64x2.mul(f64x2.splat(0.2126), f64x2.promote_low_f32x4(r)), f64x2.mul(f64x2.splat(0.7152), f64x2.promote_low_f32x4(g))); // prettier-ignore
  return f32x4.demote_f64x2_zero(f64x2.add(two, f64x2.mul(f64x2.splat(0.0722), f64x2.promote_low_f32x4(b))));
}

// @ts-ignore: decorator
@inline
function upper(v: v128): v128 {
  return i64x2.shuffle(v, v, 1, 1);
}

/** Luminance of linear Rec.709 values (ITU-R BT.709-6, item 3.2). @param count a multiple of four */
export function luminance(red: usize, green: usize, blue: usize, to: usize, count: i32): void {
  const bytes = <usize>count << 2;
  for (let i: usize = 0; i < bytes; i += 16) {
    const r = v128.load(red + i);
    const g = v128.load(green + i);
    const b = v128.load(blue + i);
    v128.store(to + i, i64x2.shuffle(weighed(r, g, b), weighed(upper(r), upper(g), upper(b)), 0, 2));
  }
}

/** A block of the channel that others are to add up to: sums of 0, and its own half step of rounding allowed. */
export function beginSum(wanted: usize, sum: usize, allowed: usize, count: i32, share: f64, least: f64): void {
  for (let i: usize = 0; i < <usize>count; i += 2) {
    v128.store(sum + (i << 3), f64x2.splat(0));
    v128.store(allowed + (i << 3), stepsOf(f64x2.promote_low_f32x4(v128.load64_zero(wanted + (i << 2))), share, least));
  }
}

// @ts-ignore: decorator
@inline
function stepsOf(v: v128, share: f64, least: f64): v128 {
  return f64x2.max(f64x2.splat(least), f64x2.mul(f64x2.abs(v), f64x2.splat(share)));
}

export function addPart(plane: usize, sum: usize, allowed: usize, count: i32, share: f64, least: f64): void {
  for (let i: usize = 0; i < <usize>count; i += 2) {
    const v = f64x2.promote_low_f32x4(v128.load64_zero(plane + (i << 2)));
    const s = sum + (i << 3);
    const a = allowed + (i << 3);
    v128.store(s, f64x2.add(v128.load(s), v));
    v128.store(a, f64x2.add(v128.load(a), stepsOf(v, share, least)));
  }
}

/** Where sums are off by more than is allowed: a byte of 1 each; what is no number is not judged. @param to the largest difference, then its place, as doubles */
export function judgeSum(wanted: usize, sum: usize, allowed: usize, count: i32, off: usize, to: usize): void {
  let worst: f64 = 0;
  let place: f64 = 0;
  for (let i: usize = 0; i < <usize>count; i += 2) {
    const differences = f64x2.abs(f64x2.sub(v128.load(sum + (i << 3)), f64x2.promote_low_f32x4(v128.load64_zero(wanted + (i << 2))))); // prettier-ignore
    const isOff = f64x2.gt(differences, f64x2.mul(v128.load(allowed + (i << 3)), f64x2.splat(1.01)));
    if (!v128.any_true(isOff)) continue;
    if (i64x2.extract_lane(isOff, 0)) {
      store<u8>(off + i, 1);
      const difference = f64x2.extract_lane(differences, 0);
      if (difference > worst) {
        worst = difference;
        place = <f64>i;
      }
    }
    // Beyond an odd number there is a value that is none of the block's.
    if (i64x2.extract_lane(isOff, 1) && i + 1 < <usize>count) {
      store<u8>(off + i + 1, 1);
      const difference = f64x2.extract_lane(differences, 1);
      if (difference > worst) {
        worst = difference;
        place = <f64>(i + 1);
      }
    }
  }
  store<f64>(to, worst);
  store<f64>(to + 8, place);
}
