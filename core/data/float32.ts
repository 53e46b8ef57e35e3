/** Rounding of doubles to 32 bits in a chosen direction. */

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
