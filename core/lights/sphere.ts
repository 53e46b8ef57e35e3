/**
 * Points, spheres and spots. A sphere of radius r and intensity I has radiance I/(πr²); a radius of 0 is a
 * point that rays never meet. A spot is one of both whose light fades to nothing at the edge of its cone.
 */
import type { i32 } from '../data/numbers.ts';
import type { LightSpec } from '../document/schema.ts';
import { LIGHT_SHAPE } from './table.ts';

export const SPHERE_CENTRE = LIGHT_SHAPE;
export const SPHERE_RADIUS = LIGHT_SHAPE + 3;
/** Where a spot shines, unit. */
export const SPHERE_AXIS = LIGHT_SHAPE + 4;
/** Cosines of the half angles within which it is full and beyond which there is nothing; `EVERYWHERE` for a point. */
export const SPHERE_INNER = LIGHT_SHAPE + 7;
export const SPHERE_OUTER = LIGHT_SHAPE + 8;

/** Below every cosine. */
const EVERYWHERE = -2;
/** Least width of the fade, in cosines, that the extension divides by. */
const LEAST_FADE = 1e-3;

type SphereSpec = Extract<LightSpec, { kind: 'point' | 'spot' }>;

/** Factor from intensity to the row's radiance. */
export const sphereRadiance = ({ radius }: SphereSpec): number => (radius > 0 ? 1 / (Math.PI * radius * radius) : 1);

export function writeSphere(table: Float64Array, o: number, spec: SphereSpec): void {
  const m = spec.transform;
  const length = Math.hypot(m[8], m[9], m[10]);
  for (let a = 0; a < 3; a++) {
    table[o + SPHERE_CENTRE + a] = m[12 + a];
    table[o + SPHERE_AXIS + a] = -m[8 + a] / length;
  }
  table[o + SPHERE_RADIUS] = spec.radius;
  const outer = spec.kind === 'spot' ? (spec.cone * Math.PI) / 360 : 0;
  table[o + SPHERE_OUTER] = spec.kind === 'spot' ? Math.cos(outer) : EVERYWHERE;
  table[o + SPHERE_INNER] = spec.kind === 'spot' ? Math.cos(outer * (1 - spec.softness)) : EVERYWHERE;
}

/** Distance along the ray at which it meets the sphere from outside, or Infinity. */
export function hitSphere(table: Float64Array, o: i32, ray: Float64Array): number {
  const r = table[o + SPHERE_RADIUS];
  const x = table[o + SPHERE_CENTRE] - ray[0];
  const y = table[o + SPHERE_CENTRE + 1] - ray[1];
  const z = table[o + SPHERE_CENTRE + 2] - ray[2];
  const along = x * ray[3] + y * ray[4] + z * ray[5];
  if (!(along > 0)) return Infinity;
  // Distance of the ray from the centre, by the rejected part: exact where the squares would cancel.
  const px = x - along * ray[3];
  const py = y - along * ray[4];
  const pz = z - along * ray[5];
  const h2 = r * r - (px * px + py * py + pz * pz);
  if (!(h2 > 0)) return Infinity;
  const t = along - Math.sqrt(h2);
  return t > 0 ? t : Infinity;
}

/**
 * Share of its light that a spot sends along the unit direction (x, y, z): between its two angles the square of how far the
 * cosine has come. Source: Khronos, KHR_lights_punctual, "Inner and Outer Cone Angles".
 */
export function spotShare(table: Float64Array, o: i32, x: number, y: number, z: number): number {
  const outer = table[o + SPHERE_OUTER];
  if (outer <= EVERYWHERE) return 1;
  const c = table[o + SPHERE_AXIS] * x + table[o + SPHERE_AXIS + 1] * y + table[o + SPHERE_AXIS + 2] * z;
  if (c <= outer) return 0;
  const s = (c - outer) / Math.max(LEAST_FADE, table[o + SPHERE_INNER] - outer);
  return s < 1 ? s * s : 1;
}

/** 1 − cos of half the angle under which a sphere is seen from distance² `d2`, without cancellation. */
export function capHeight(radius: number, d2: number): number {
  const sine2 = (radius * radius) / d2;
  return sine2 / (1 + Math.sqrt(1 - sine2));
}
