/**
 * Triangles that emit, sampled as lights: one is chosen with a chance in proportion to its area and
 * brightness, a place on it evenly. Both sides shine, or the one its object shows.
 */
import type { i32 } from '../data/numbers.ts';
import { LIGHT_SHAPE } from './table.ts';

/** First and number of its triangles in the table of emitters. */
export const MESH_FIRST = LIGHT_SHAPE;
export const MESH_COUNT = LIGHT_SHAPE + 1;

/** Emitting triangles of all mesh lights. */
export interface Emitters {
  /** See the EMITTER_… offsets. */
  rows: Float64Array;
  /** Per row: chance of it and those before it in the same light. */
  chance: Float64Array;
  /** Instance and triangle of each row. */
  instance: Int32Array;
  triangle: Int32Array;
}

export const EMITTER_STRIDE = 10;
/** Corner and two edges from it, in the world. */
export const EMITTER_CORNER = 0;
export const EMITTER_U = 3;
export const EMITTER_V = 6;
/** Density of its places, 1/m², the chance of the triangle included. */
export const EMITTER_DENSITY = 9;

/** The row that `u` (0–1) chooses among those of one light. */
export function chooseEmitter(chance: Float64Array, first: i32, count: i32, u: number): i32 {
  let low = first;
  let high = first + count - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (chance[middle] > u) high = middle;
    else low = middle + 1;
  }
  return low;
}
