/**
 * Counter-based random numbers. Nothing is a stream: each number is a hash of pixel, group, seed,
 * dimension and index, so changing one limit or count changes no other number, and any tile, thread
 * or process gives the same bits.
 *
 * The 4 samples of a group are the first 4 points of the Sobol (0,2)-sequence, shuffled and scrambled
 * anew for each dimension pair (Kollig & Keller 2002; Burley, "Practical Hash-based Owen Scrambling",
 * 2020), so that groups are independent of each other. Hash: lowbias32, Wellons 2018.
 *
 * @example
 * const random = new GroupRandom();
 * random.start(x, y, group, seed);
 * random.sample = 2;
 * random.draw(dimension(bounce, SLOT_LOBE), 0);
 * use(random.u, random.v);
 */

import { unsigned, type f64, type i32 } from '../../data/numbers.ts';

/** Purposes with a slot of their own in every bounce. */
export const SLOT_LOBE = 0;
export const SLOT_DIRECTION = 1;
export const SLOT_LIGHT = 2;
export const SLOT_ROULETTE = 3;
export const SLOT_FILTER = 4;
export const SLOT_TIME = 5;
export const SLOT_ALPHA = 6;
export const SLOT_FOG = 7;
export const SLOT_FOG_DIRECTION = 8;
export const SLOT_OCCLUSION = 9;
export const SLOT_CATCHER = 10;
export const SLOT_CHOICE = 11;
export const SLOT_LENS = 12;
const SLOTS = 16;

export const dimension = (bounce: i32, slot: i32): i32 => bounce * SLOTS + slot;

/** Samples of one group. */
export const GROUP = 4;

const SCALE = 2 ** -32;

export class GroupRandom {
  /** Which of the group's samples, 0–3. */
  sample: i32 = 0;
  /** The last pair drawn, each in [0, 1). */
  u: f64 = 0;
  v: f64 = 0;
  private key: i32 = 0;

  start(x: i32, y: i32, group: i32, seed: i32): void {
    this.key = mix(mix(mix(mix(seed) ^ x) + Math.imul(y, 0x9e3779b1)) ^ Math.imul(group + 1, 0x85ebca6b));
  }

  /** @param index tells apart what shares a dimension: split samples, lights */
  draw(dimension: i32, index: i32): void {
    const h = mix(
      this.key ^ Math.imul(dimension + 1, 0x9e3779b1) ^ (index === 0 ? 0 : mix(Math.imul(index, 0x27d4eb2d))),
    );
    let i = this.sample;
    i ^= h & 1 ? 2 : 0;
    i ^= (i & 2 ? h >> 1 : h >> 2) & 1;
    // Point i of the net, two bits an axis: (0,0), (½,½), (¼,¾), (¾,¼).
    let a = ((i & 1) << 1) | (i >> 1);
    let b = i === 0 ? 0 : i === 1 ? 2 : i === 2 ? 3 : 1;
    a ^= h & 8 ? 2 : 0;
    a ^= (a & 2 ? h >> 4 : h >> 5) & 1;
    b ^= h & 64 ? 2 : 0;
    b ^= (b & 2 ? h >> 7 : h >> 8) & 1;
    const j = mix(h + Math.imul(i + 1, 0x632be5ab));
    this.u = (a + unsigned(j) * SCALE) * 0.25;
    this.v = (b + unsigned(mix(j ^ 0x68bc21eb)) * SCALE) * 0.25;
  }
}

function mix(x: i32): i32 {
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d);
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b);
  return x ^ (x >>> 16);
}
