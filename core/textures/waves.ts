/** Water: trains of sine waves that cross, shorter ones weaker. */
import type { f64 } from '../data/numbers.ts';

/** One train: wave numbers along X and Z in 1/m, phase in turns, strength (all strengths add up to 1). */
export const TRAIN_STRIDE = 4;

/**
 * @param length of the longest waves, metres
 * @param turns by which the water has moved on; long waves move faster (deep water: speed ∝ √length)
 */
export function compileWaves(length: number, directions: number, turns: number, seed: number): Float64Array {
  const trains = new Float64Array(directions * TRAIN_STRIDE);
  let all = 0;
  for (let k = 0; k < directions; k++) {
    const own = length * (1 - (0.75 * k) / directions);
    const angle = unit(seed, k * 3) * 2 * Math.PI;
    const o = k * TRAIN_STRIDE;
    trains[o] = Math.cos(angle) / own;
    trains[o + 1] = Math.sin(angle) / own;
    trains[o + 2] = unit(seed, k * 3 + 1) - turns * Math.sqrt(length / own);
    trains[o + 3] = own;
    all += own;
  }
  for (let o = 3; o < trains.length; o += TRAIN_STRIDE) trains[o] /= all;
  return trains;
}

/** Height of the water at (x, z), 0–1. */
export function waterHeight(trains: Float64Array, x: number, z: number): number {
  let sum: f64 = 0;
  for (let o = 0; o < trains.length; o += TRAIN_STRIDE)
    sum += trains[o + 3] * Math.sin(2 * Math.PI * (trains[o] * x + trains[o + 1] * z + trains[o + 2]));
  return 0.5 + 0.5 * sum;
}

function unit(seed: number, k: number): number {
  let h = Math.imul(seed ^ Math.imul(k + 1, 0x9e3779b1), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
}
