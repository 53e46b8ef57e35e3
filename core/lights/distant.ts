/**
 * Distant lights: irradiance E at normal incidence, spread evenly over a disc of the sky of angular size α,
 * of radiance E/(π sin²(α/2)). Size 0 is a single direction that rays never meet.
 */
import type { i32 } from '../data/numbers.ts';
import type { LightSpec } from '../document/schema.ts';
import { LIGHT_SHAPE } from './table.ts';

/** Unit, towards the light. */
export const DISTANT_DIRECTION = LIGHT_SHAPE;
/** 1 − cos(α/2). */
export const DISTANT_CAP = LIGHT_SHAPE + 3;

type DistantSpec = Extract<LightSpec, { kind: 'distant' }>;

/** Factor from irradiance to the row's radiance. */
export function distantRadiance({ angle }: DistantSpec): number {
  const sine = Math.sin((angle * Math.PI) / 360);
  return sine > 0 ? 1 / (Math.PI * sine * sine) : 1;
}

export function writeDistant(table: Float64Array, o: number, spec: DistantSpec): void {
  const m = spec.transform;
  const length = Math.hypot(m[8], m[9], m[10]);
  for (let a = 0; a < 3; a++) table[o + DISTANT_DIRECTION + a] = m[8 + a] / length;
  const half = Math.sin((spec.angle * Math.PI) / 720);
  table[o + DISTANT_CAP] = 2 * half * half;
}

/** Whether the unit direction (x, y, z) lies on the light's disc. */
export function isOnDistant(table: Float64Array, o: i32, x: number, y: number, z: number): boolean {
  const d = o + DISTANT_DIRECTION;
  const ex = x - table[d];
  const ey = y - table[d + 1];
  const ez = z - table[d + 2];
  // |a − b|² / 2 = 1 − cos, exact for small angles.
  return (ex * ex + ey * ey + ez * ez) / 2 < table[o + DISTANT_CAP];
}
