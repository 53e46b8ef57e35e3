/**
 * Gradient noise in two and three dimensions, repeatable from a seed.
 * Source: Perlin, "Improving Noise", 2002 (fade curve and gradients on cube edges); lattice hash:
 * lowbias32, Wellons 2018, in place of a permutation table.
 */
import { toInt, type f64, type i32 } from '../data/numbers.ts';

/** Layers of noise, each at half the size and strength of the one before, scaled to about 0–1. */
export function layeredNoise(x: number, y: number, z: number, octaves: i32, seed: i32): number {
  let sum: f64 = 0;
  let strength: f64 = 1;
  let all: f64 = 0;
  for (let k = 0; k < octaves; k++) {
    sum += strength * gradientNoise(x, y, z, seed + k);
    all += strength;
    strength *= 0.5;
    x *= 2;
    y *= 2;
    z *= 2;
  }
  return Math.min(1, Math.max(0, 0.5 + (0.5 * sum) / all));
}

/** One layer, −1 to 1, 0 at the points of the whole-number lattice. */
export function gradientNoise(x: number, y: number, z: number, seed: i32): number {
  const fx = toInt(Math.floor(x));
  const fy = toInt(Math.floor(y));
  const fz = toInt(Math.floor(z));
  const ax = x - fx;
  const ay = y - fy;
  const az = z - fz;
  const u = fade(ax);
  const v = fade(ay);
  const w = fade(az);
  const near = mix(
    mix(slope(fx, fy, fz, ax, ay, az, seed), slope(fx + 1, fy, fz, ax - 1, ay, az, seed), u),
    mix(slope(fx, fy + 1, fz, ax, ay - 1, az, seed), slope(fx + 1, fy + 1, fz, ax - 1, ay - 1, az, seed), u),
    v,
  );
  const far = mix(
    mix(slope(fx, fy, fz + 1, ax, ay, az - 1, seed), slope(fx + 1, fy, fz + 1, ax - 1, ay, az - 1, seed), u),
    mix(
      slope(fx, fy + 1, fz + 1, ax, ay - 1, az - 1, seed),
      slope(fx + 1, fy + 1, fz + 1, ax - 1, ay - 1, az - 1, seed),
      u,
    ),
    v,
  );
  return mix(near, far, w);
}

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);
const mix = (a: number, b: number, t: number): number => a + t * (b - a);

/** The lattice point's gradient along the way to the place asked for. */
function slope(i: i32, j: i32, k: i32, x: number, y: number, z: number, seed: i32): number {
  let h = Math.imul(i, 0x9e3779b1) ^ Math.imul(j, 0x85ebca6b) ^ Math.imul(k, 0xc2b2ae35) ^ seed;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  h = (h ^ (h >>> 16)) & 15;
  const a = h < 8 ? x : y;
  const b = h < 4 ? y : h === 12 || h === 14 ? x : z;
  return ((h & 1) === 0 ? a : -a) + ((h & 2) === 0 ? b : -b);
}
