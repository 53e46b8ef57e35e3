/** Numbers of 32 bits: rounding to them in a chosen direction, and how far apart they are. */

const one = new Float32Array(1);
const bits = new Int32Array(one.buffer);

/** The largest 32-bit number that is not above `x`; `-roundDown(-x)` is the smallest that is not below. */
export function roundDown(x: number): number {
  one[0] = x;
  if (one[0] <= x) return one[0];
  if (one[0] === 0) return -1.401298464324817e-45;
  bits[0] += one[0] > 0 ? -1 : 1;
  return one[0];
}

/**
 * Distance between neighbouring 32-bit numbers about `x`: 2^(e − 23); 0 at 0. Source: IEEE 754-2019, binary32.
 *
 * @example spacing(40_000) // 0.00390625: 3.9 mm at 40 km
 */
export const spacing = (x: number): number => (x === 0 ? 0 : 2 ** (Math.floor(Math.log2(Math.abs(x))) - 23));
