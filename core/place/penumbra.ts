/**
 * The width of a shadow's edge by the light's size, and the size for a width that is wished. A light that is seen under an angle
 * α, at a distance D, blurs the shadow of an edge at a distance d by 2 d tan(α/2) · D/(D − d) across, and by one over the cosine
 * more where the light comes in at a slant. Similar triangles; of the sun, which has no distance, D/(D − d) is 1.
 *
 * @example
 * penumbraWidth({ angle: 0.53, blocker: 2, light: null, cosine: 1 }); // 0.0185 m
 */
import type { LightSpec } from '../document/schema.ts';
import type { ControlValues } from '../document/set-values.ts';

export interface Edge {
  /** Degrees that the light is wide as seen from the lit place. */
  angle: number;
  /** Metres from there to what throws the shadow, and to the light; null: far. */
  blocker: number;
  light: number | null;
  /** Of the angle between the surface's normal and the light. */
  cosine: number;
}

/** Below it the surface is lit at so low an angle that its shadow's edge has no width to speak of. */
const LEAST_COSINE = 0.02;
const RADIANS = Math.PI / 180;

/** Metres on the surface, in the direction of the light. */
export function penumbraWidth({ angle, blocker, light, cosine }: Edge): number {
  const size = 2 * Math.tan((angle * RADIANS) / 2);
  const across = light === null ? blocker * size : (light * size * blocker) / Math.max(1e-9, light - blocker);
  return across / Math.max(LEAST_COSINE, cosine);
}

/** Degrees that the light must be wide for an edge of so many metres. */
export function angleFor(width: number, { blocker, light, cosine }: Omit<Edge, 'angle'>): number {
  const across = width * Math.max(LEAST_COSINE, cosine);
  const size = light === null ? across / blocker : (across * Math.max(1e-9, light - blocker)) / (light * blocker);
  return (2 * Math.atan(size / 2)) / RADIANS;
}

/**
 * Values that make a light as wide as an angle, and leave it as bright: suns by their angle, points and discs by their radius,
 * rectangles by both sides at once; what has a radiance gives it up by area.
 * @param now degrees that it is wide as it stands
 * @returns null where it has no size to set, or would be wider than controls go
 */
export function widened(
  pointer: string,
  light: LightSpec,
  now: number,
  angle: number,
  metres: number | null,
): ControlValues | null {
  const round = (value: number) => +value.toPrecision(3);
  if (light.kind === 'distant') return angle <= 180 ? { [`${pointer}/angle`]: round(angle) } : null;
  if (light.kind === 'mesh' || metres === null) return null;
  // A ball is seen by its tangents, a flat light by its own half.
  if (light.kind === 'point' || light.kind === 'spot') return { [`${pointer}/radius`]: round(metres * Math.sin((angle * RADIANS) / 2)) }; // prettier-ignore
  const factor = Math.tan((angle * RADIANS) / 2) / Math.tan((now * RADIANS) / 2);
  if (!(factor > 0) || !Number.isFinite(factor)) return null;
  const sides = light.kind === 'disc' ? { radius: light.radius } : { width: light.width, height: light.height };
  return {
    ...Object.fromEntries(Object.entries(sides).map(([key, value]) => [`${pointer}/${key}`, round(value * factor)])),
    [`${pointer}/intensity`]: round(light.intensity / factor ** 2),
  };
}
