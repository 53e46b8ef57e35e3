import type { i32 } from '../../data/numbers.ts';
import { DIFFUSE_RAY, SPECULAR_RAY, TRANSMISSION_RAY } from '../../geometry/ray-kinds.ts';
import { SPECULAR, TRANSMISSION } from '../../materials/surface.ts';

/** What the ray after an event of a kind is sent for; those that fog scatters count as diffuse. */
export const rayOfKind = (kind: i32): i32 =>
  kind === SPECULAR ? SPECULAR_RAY : kind === TRANSMISSION ? TRANSMISSION_RAY : DIFFUSE_RAY;
