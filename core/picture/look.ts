/** How a picture is looked at: all that a viewer can be set to. Derived from a picture every time, never stored in it. */
import { PLAIN_VIEW } from './view.ts';
import type { SpaceId } from './spaces.ts';
import { TRANSFORMS, type TransformId } from './transforms/registry.ts';

export type Solo = 'colour' | 'red' | 'green' | 'blue' | 'alpha' | 'luminance';

export interface Look {
  /** Stops. */
  exposure: number;
  /** Applied on top of the transform: display = transform(x)^(1/gamma). */
  gamma: number;
  /** Added to linear values after exposure. */
  offset: number;
  transform: TransformId;
  /** Space that the values are in. */
  space: SpaceId;
  solo: Solo;
  /** Luminance in stops from middle grey, as colours with a legend. */
  isInStops: boolean;
  /** Marks on pixels that clip (any channel shown as white or above) and on those below 0. */
  marks: boolean;
  /** What is seen behind pixels that are not covered. */
  behind: 'nothing' | 'checker' | 'grey';
}

export const PLAIN_LOOK: Look = {
  ...PLAIN_VIEW,
  offset: 0,
  transform: 'srgb',
  space: 'rec709',
  solo: 'colour',
  isInStops: false,
  marks: false,
  behind: 'nothing',
};

/**
 * Octaves 2⁻²⁴ … 2⁸ of 2,048 steps each: finer than 8-bit display steps wherever a curve is steep. Indexed by the upper
 * bits of a 32-bit float, which are its exponent and the first digits of its mantissa.
 */
const LOWEST = 103 << 23;
const STEP_BITS = 12;
const ENTRIES = 32 << 11;

/** Display bytes by the bits of a linear float; see `entryOf`. */
export function displayTable(transform: TransformId, gamma: number): Uint8Array {
  const { display } = TRANSFORMS[transform];
  const bits = new Int32Array(1);
  const value = new Float32Array(bits.buffer);
  const table = new Uint8Array(ENTRIES);
  for (let i = 0; i < ENTRIES; i++) {
    // The middle of the values that share the entry.
    bits[0] = LOWEST + (i << STEP_BITS) + (1 << (STEP_BITS - 1));
    table[i] = Math.round(255 * Math.min(1, Math.max(0, display(value[0]))) ** (1 / gamma));
  }
  // Nothing is black, whatever the smallest value above it would show as.
  table[0] = 0;
  return table;
}

/** @param bits of a float; those of negative ones are below 0 */
export const entryOf = (bits: number): number => {
  const at = (bits - LOWEST) >> STEP_BITS;
  return bits < LOWEST ? 0 : at >= ENTRIES ? ENTRIES - 1 : at;
};
