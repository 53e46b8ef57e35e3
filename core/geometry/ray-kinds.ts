import type { i32 } from '../data/numbers.ts';

/** What a ray is sent for, one bit each: an instance or light with that bit is there for it. */
export const CAMERA_RAY = 1;
/** Shadow rays meet opaque bodies and those that let light through by different bits, the former first. */
export const SHADOW_RAY = 2;
export const SHADOW_THROUGH_RAY = 4;
/** After a diffuse event, or one in fog. */
export const DIFFUSE_RAY = 8;
export const SPECULAR_RAY = 16;
export const TRANSMISSION_RAY = 32;
export const OCCLUSION_RAY = 64;

/** Ray sent by an event of a kind, see `materials/surface.ts`: specular, transmission, and all that spread. */
export const rayOfKind = (kind: i32): i32 => (kind === 1 ? SPECULAR_RAY : kind === 2 ? TRANSMISSION_RAY : DIFFUSE_RAY);

export const ANY_SHADOW_RAY = SHADOW_RAY | SHADOW_THROUGH_RAY;
