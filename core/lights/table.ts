/**
 * Every light of a scene as one row of a flat table: what all kinds have, then the kind's own geometry.
 * A kind's file (`sphere.ts`, `quad.ts`, `distant.ts`, `mesh-light.ts`, `sky.ts`) tells its part of the row.
 */
import type { EmitterSpec } from '../document/schema.ts';

export const LIGHT_STRIDE = 40;

export const LIGHT_KIND = 0;
/** Radiance; of a point without size its intensity, of a distant light without size its irradiance. */
export const LIGHT_RADIANCE = 1;
export const LIGHT_SAMPLES = 4;
export const LIGHT_FLAGS = 5;
export const LIGHT_SHADOW_COLOUR = 6;
export const LIGHT_SHADOW_DISTANCE = 9;
/** Ray kinds that may see it, see `geometry/ray-kinds.ts`. */
export const LIGHT_VISIBILITY = 10;
export const LIGHT_GROUP = 11;
export const LIGHT_REACH_DISTANCE = 12;
export const LIGHT_REACH_BOUNCES = 13;
/** First slot of the kind's own geometry. */
export const LIGHT_SHAPE = 16;

/** Bits of LIGHT_FLAGS. */
export const CASTS_SHADOWS = 1;
/** Its shadows are as nature has them, so that rays that meet it by chance may count for it. */
export const PLAIN_SHADOWS = 2;
/** Has no size: rays never meet it. */
export const POINT_LIKE = 4;
/** Is aimed at by shadow rays. */
export const SAMPLED = 8;
/** Does not light everything: see the scene's light links. */
export const LINKED = 16;
/** Is not shaded by everything: see the scene's shadow links. */
export const SHADOW_LINKED = 32;
/** Part of its light comes through what stands in the way. */
export const TINTED_SHADOWS = 64;
/** Stands at no place: met by rays that leave the scene. */
export const FAR = 128;

export const LIGHT_SPHERE = 0;
export const LIGHT_RECTANGLE = 1;
export const LIGHT_DISC = 2;
export const LIGHT_DISTANT = 3;
export const LIGHT_MESH = 4;
export const LIGHT_SKY = 5;

/** Writes what all kinds have. `radiance` is the factor on the colour, in the unit of the row. */
export function writeEmitter(
  table: Float64Array,
  o: number,
  kind: number,
  spec: EmitterSpec,
  radiance: number,
  visibility: number,
  group: number,
): void {
  table[o + LIGHT_KIND] = kind;
  for (let a = 0; a < 3; a++) {
    table[o + LIGHT_RADIANCE + a] = spec.colour[a] * radiance;
    table[o + LIGHT_SHADOW_COLOUR + a] = spec.shadowColour[a];
  }
  const tinted = spec.shadowColour.some((c) => c > 0);
  const linked = spec.shadowsOf.mode !== 'all';
  const plain = spec.castsShadows && !tinted && !linked && spec.shadowDistance === null;
  table[o + LIGHT_SAMPLES] = spec.samples;
  table[o + LIGHT_FLAGS] =
    (spec.castsShadows ? CASTS_SHADOWS : 0) |
    (plain ? PLAIN_SHADOWS : 0) |
    (spec.lights.mode !== 'all' ? LINKED : 0) |
    (linked ? SHADOW_LINKED : 0) |
    (tinted ? TINTED_SHADOWS : 0) |
    SAMPLED;
  table[o + LIGHT_SHADOW_DISTANCE] = spec.shadowDistance ?? Infinity;
  table[o + LIGHT_VISIBILITY] = visibility;
  table[o + LIGHT_GROUP] = group;
  table[o + LIGHT_REACH_DISTANCE] = spec.reach.distance ?? Infinity;
  table[o + LIGHT_REACH_BOUNCES] = spec.reach.bounces ?? Infinity;
}
