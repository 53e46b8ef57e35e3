/** Noise as exposure, beside noise of 255: that counts what is seen of it, this holds the error of each pixel against its own light. */
import { percentile } from './measured.ts';

/** log2(1 + σ/y) of the median pixel that has light; 0 where none has. */
export function noiseStops(luminances: ArrayLike<number>, errors: ArrayLike<number>): number {
  const shares: number[] = [];
  for (let i = 0; i < luminances.length; i++) if (luminances[i] > 0) shares.push(errors[i] / luminances[i]);
  return Math.log2(1 + percentile(shares, 0.5));
}
