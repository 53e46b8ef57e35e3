/**
 * Where a light or a camera is put so that it does something at a point of the picture: looks at it, is mirrored in it, or has
 * the shadow of something fall on it.
 *
 * @example
 * const turned = aimed(spot.transform, picked.point);
 * const mirrored = withHighlight(key.transform, false, { ...picked, eye });
 */
import { placementOf, transformOf, withPart, type Triple } from './placement.ts';
import type { Transform } from './transform.ts';

/** A point on a surface that is seen from somewhere, metres; the normal is a unit vector towards the one who sees it. */
export interface SeenPoint {
  point: Triple;
  normal: Triple;
  eye: Triple;
}

const minus = (a: readonly number[], b: readonly number[]): Triple => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const along = (from: readonly number[], way: readonly number[], by: number): Triple => [from[0] + way[0] * by, from[1] + way[1] * by, from[2] + way[2] * by]; // prettier-ignore
const length = (v: readonly number[]): number => Math.hypot(v[0], v[1], v[2]);
const DEGREES = 180 / Math.PI;

/** @throws RangeError where both are one place */
function unit(v: Triple): Triple {
  const l = length(v);
  if (!(l > 0)) throw new RangeError('the point is where the light or the camera stands');
  return [v[0] / l, v[1] / l, v[2] / l];
}

/** Rotation whose +Z axis points along a unit vector, without roll. */
const rotationTowards = ([x, y, z]: Triple): Triple => [-Math.asin(Math.min(1, Math.max(-1, y))) * DEGREES, Math.atan2(x, z) * DEGREES, 0]; // prettier-ignore

/** The transform turned so that its −Z looks at a point; place and scale stay. */
export function aimed(transform: Transform, at: Triple): Transform {
  const { position } = placementOf(transform);
  return withPart(transform, transform, 'rotation', rotationTowards(unit(minus(position, at))));
}

/** At `from`, looking at `at` along its −Z. */
export const placedAt = (from: Triple, at: Triple): Transform =>
  transformOf({ position: from, rotation: rotationTowards(unit(minus(from, at))), scale: [1, 1, 1] });

/** Moved and turned so that light from `way` of a point comes to it; one without a place is turned alone. */
function comingFrom(transform: Transform, isFar: boolean, point: Triple, way: Triple, distance: number): Transform {
  const turned = withPart(transform, transform, 'rotation', rotationTowards(way));
  return isFar ? turned : withPart(transform, turned, 'position', along(point, way, distance));
}

/** @param isFar a distant light, which shines from a direction and stands nowhere */
export function withHighlight(transform: Transform, isFar: boolean, { point, normal, eye }: SeenPoint): Transform {
  const out = unit(minus(eye, point));
  const cosine = out[0] * normal[0] + out[1] * normal[1] + out[2] * normal[2];
  const mirrored = unit([0, 1, 2].map((a) => 2 * cosine * normal[a] - out[a]) as Triple);
  return comingFrom(transform, isFar, point, mirrored, length(minus(placementOf(transform).position, point)));
}

/** Put so that the shadow of what is at `caster` falls on `point`; at least half as far again from it as the caster. */
export function withShadow(transform: Transform, isFar: boolean, caster: Triple, point: Triple): Transform {
  const way = minus(caster, point);
  const distance = Math.max(length(minus(placementOf(transform).position, point)), 1.5 * length(way));
  return comingFrom(transform, isFar, point, unit(way), distance);
}

/** Metres along a camera's axis to a point; negative behind it. */
export const depthOf = (camera: Transform, point: Triple): number => {
  const z: Triple = [camera[8], camera[9], camera[10]];
  const way = minus(placementOf(camera).position, point);
  return (way[0] * z[0] + way[1] * z[1] + way[2] * z[2]) / length(z);
};
