/**
 * A transform as people set it: position, rotation and scale, and of a sun its elevation and azimuth. Documents keep matrices;
 * a part that is not touched keeps its bits, and one that is set back to what it was gets them back.
 *
 * Rotations are Euler angles in degrees, applied roll (Z) first, then pitch (X), then heading (Y): M = T · Ry · Rx · Rz · S.
 *
 * @example
 * const { rotation } = placementOf(sun);                                       // [−18, 142, 0]
 * const turned = withPart(sun, sun, 'rotation', [-30, 142, 0]);
 * withPart(sun, turned, 'rotation', rotation);                                 // `sun` itself, bit for bit
 */
import { determinant, multiply, rotationX, rotationY, rotationZ, type Transform } from './transform.ts';

export type Triple = [number, number, number];

export interface Placement {
  /** Metres. */
  position: Triple;
  /** Degrees about X, Y and Z, each in (−180, 180]. */
  rotation: Triple;
  /** Factors along the object's own axes; the last one negative where it is mirrored. */
  scale: Triple;
}

/** `elevation` and `azimuth`: of where light comes from that shines along −Z. */
export const PLACEMENT_PARTS = ['position', 'rotation', 'scale', 'elevation', 'azimuth'] as const;
export type PlacementPart = (typeof PLACEMENT_PARTS)[number];

const DEGREES = 180 / Math.PI;
/** Share of an axis' length that rounding leaves of a right angle between two. */
const SQUARE = 1e-6;
/** What is shown of an angle, a length or a factor; less is rounding. */
const DIGITS = 1e9;

const tidy = (value: number): number => Math.round(value * DIGITS) / DIGITS + 0;

/** The columns of a transform: where its axes point, and how long they are. */
const axesOf = (m: Transform): number[][] => [m.slice(0, 3), m.slice(4, 7), m.slice(8, 11)];
const dot = (a: number[], b: number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Whether its axes stand at right angles, so that it is a position, a rotation and a scale. */
export function isPlain(m: Transform): boolean {
  const axes = axesOf(m);
  const lengths = axes.map((axis) => Math.hypot(...axis));
  if (lengths.some((length) => !(length > 0))) return false;
  const skew = (a: number, b: number) => Math.abs(dot(axes[a], axes[b])) / (lengths[a] * lengths[b]);
  return skew(0, 1) < SQUARE && skew(1, 2) < SQUARE && skew(2, 0) < SQUARE;
}

/** @param m position, rotation and scale; of a sheared one the rotation is that of its Z and Y axes, see `isPlain` */
export function placementOf(m: Transform): Placement {
  const [x, y, z] = axesOf(m);
  const scale: Triple = [Math.hypot(...x), Math.hypot(...y), Math.hypot(...z) * (determinant(m) < 0 ? -1 : 1)];
  const [ux, uy, uz] = [x, y, z].map((axis, i) => axis.map((c) => c / scale[i]));
  // Of Ry · Rx · Rz the third column is (sin y cos x, −sin x, cos y cos x).
  const pitch = Math.asin(Math.min(1, Math.max(-1, -uz[1])));
  const isUpright = Math.abs(uz[1]) < 1 - 1e-12;
  const heading = isUpright ? Math.atan2(uz[0], uz[2]) : Math.atan2(-ux[2], ux[0]);
  const roll = isUpright ? Math.atan2(ux[1], uy[1]) : 0;
  return {
    position: [m[12], m[13], m[14]],
    rotation: [tidy(pitch * DEGREES), tidy(heading * DEGREES), tidy(roll * DEGREES)],
    scale: scale.map(tidy) as Triple,
  };
}

/** The transform of a placement. */
export function transformOf({ position, rotation: [x, y, z], scale }: Placement): Transform {
  const turned = multiply(rotationY(y), multiply(rotationX(x), rotationZ(z)));
  return turned.map((c, i) => (i > 11 ? (position[i - 12] ?? 1) : i % 4 === 3 ? c : c * scale[i >> 2]));
}

export interface SunPlace {
  /** Degrees above the horizon, the XZ plane. */
  elevation: number;
  /** Degrees from north (−Z) towards east (+X), 0 to 360. */
  azimuth: number;
}

/** Where light comes from that shines along −Z. */
export function sunPlaceOf(m: Transform): SunPlace {
  const [x, y, z] = m.slice(8, 11);
  const length = Math.hypot(x, y, z);
  const azimuth = Math.atan2(x, -z) * DEGREES;
  return { elevation: tidy(Math.asin(y / length) * DEGREES), azimuth: tidy(azimuth < 0 ? azimuth + 360 : azimuth) };
}

/** Unit direction to the sun, +X east, +Y up, −Z north. */
export function sunDirection({ elevation, azimuth }: SunPlace): Triple {
  const [e, a] = [elevation / DEGREES, azimuth / DEGREES];
  return [Math.cos(e) * Math.sin(a), Math.sin(e), -Math.cos(e) * Math.cos(a)];
}

/** What a part stands at. */
export function partOf(m: Transform, part: PlacementPart): number | Triple {
  return part === 'elevation' || part === 'azimuth' ? sunPlaceOf(m)[part] : placementOf(m)[part];
}

/**
 * A transform with one part set.
 *
 * @param stored the transform that the document has: parts that stand as there get its bits
 * @param now what it was changed to so far, possibly `stored` itself
 */
export function withPart(stored: Transform, now: Transform, part: PlacementPart, value: number | Triple): Transform {
  const was = placementOf(stored);
  const wanted = { ...placementOf(now) };
  if (part === 'elevation' || part === 'azimuth') {
    const place = { ...sunPlaceOf(now), [part]: value as number };
    const before = sunPlaceOf(stored);
    if (same([place.elevation, place.azimuth], [before.elevation, before.azimuth])) wanted.rotation = was.rotation;
    // Light that shines along −Z from a height is pitched down by it and has no roll of its own.
    else wanted.rotation = [-place.elevation, tidy(wrapped(180 - place.azimuth)), 0];
  } else wanted[part] = value as Triple;
  const isTurned = !same(wanted.rotation, was.rotation) || !same(wanted.scale, was.scale);
  const turned = isTurned ? transformOf(wanted) : [...stored];
  for (let a = 0; a < 3; a++) turned[12 + a] = wanted.position[a];
  return turned;
}

const same = (a: number[], b: number[]): boolean => a.every((value, i) => value === b[i]);
const wrapped = (degrees: number): number =>
  degrees > 180 ? degrees - 360 : degrees <= -180 ? degrees + 360 : degrees;
