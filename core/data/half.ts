/**
 * 16-bit floats. Source: IEEE 754-2008, binary16.
 *
 * @example
 * HALF_TO_FLOAT[0x3c00];    // 1
 * halfOf(65519);            // 0x7bff, 65504: the largest
 */
export const HALF_TO_FLOAT = new Float32Array(65536);
for (let bits = 0; bits < 65536; bits++) {
  const exponent = (bits >> 10) & 31;
  const fraction = bits & 1023;
  const sign = bits & 0x8000 ? -1 : 1;
  HALF_TO_FLOAT[bits] =
    exponent === 31
      ? fraction
        ? NaN
        : sign * Infinity
      : sign * (exponent ? 2 ** (exponent - 15) * (1 + fraction / 1024) : 2 ** -14 * (fraction / 1024));
}

const float = new Float32Array(1);
const bitsOfFloat = new Uint32Array(float.buffer);

/** The nearest half, ties to even; what is too large is infinite. */
export function halfOf(value: number): number {
  float[0] = value;
  const bits = bitsOfFloat[0];
  const sign = (bits >>> 16) & 0x8000;
  const magnitude = bits & 0x7fffffff;
  if (magnitude >= 0x7f800000) return sign | (magnitude > 0x7f800000 ? 0x7e00 : 0x7c00);
  // From here on the next half above the largest would be nearer.
  if (magnitude >= 0x477ff000) return sign | 0x7c00;
  if (magnitude < 0x38800000) {
    // Below the smallest normal half: steps of 2⁻²⁴.
    const steps = Math.abs(value) * 2 ** 24;
    const down = Math.floor(steps);
    const rest = steps - down;
    return sign | (rest > 0.5 || (rest === 0.5 && down & 1) ? down + 1 : down);
  }
  const rounded = magnitude + 0xfff + ((magnitude >>> 13) & 1);
  return sign | ((rounded - 0x38000000) >>> 13);
}
