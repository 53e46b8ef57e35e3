/**
 * Where depth maps of a light stand: a sun's look along it from beyond what the camera sees, split into cascades; a lamp's
 * look out of its middle, one where its cone is narrow and the six of a cube where it is not.
 *
 * Splits: Zhang, Sun, Xu & Lun, "Parallel-Split Shadow Maps for Large-scale Virtual Environments", VRCIA 2006, equation 6. A
 * cascade's square is that of the least sphere around its part of the camera's pyramid, so that it does not change in size as
 * the camera turns.
 */
import { axesAcross } from '../data/axes-across.ts';
import type { Triple } from '../data/placement.ts';
import { toInt } from '../data/numbers.ts';
import type { PreviewShadowsSpec } from '../document/schema.ts';
import { DISTANT_DIRECTION } from '../lights/distant.ts';
import { QUAD_U, QUAD_V } from '../lights/quad.ts';
import { SPHERE_AXIS, SPHERE_CENTRE, SPHERE_OUTER } from '../lights/sphere.ts';
import { LIGHT_DISC, LIGHT_DISTANT, LIGHT_KIND, LIGHT_RECTANGLE, LIGHT_SPHERE, LIGHT_STRIDE } from '../lights/table.ts';
import { CAMERA_AHEAD, CAMERA_RIGHT, CAMERA_UP, type CompiledScene } from '../render/scene/scene.ts';

export interface MapFrame {
  /** A sun's rays are parallel; a lamp's begin at the origin. */
  isParallel: boolean;
  /** Middle of the near plane of a sun's; the lamp. Metres. */
  origin: Triple;
  right: Triple;
  up: Triple;
  /** The way that the light goes, unit like the others. */
  ahead: Triple;
  /** Half the width: metres of a sun's, tangent of the half angle of a lamp's. */
  half: number;
  /** Metres along `ahead`. */
  near: number;
  far: number;
  /** Metres along the camera's axis where its part ends; Infinity for a lamp's. */
  to: number;
}

/**
 * Metres along the axis at which parts of a view end.
 * @param blend 0: parts of the same length; 1: each longer than the one before by the same factor
 */
export function splitsOf(near: number, far: number, parts: number, blend: number): number[] {
  return Array.from({ length: parts }, (_, k) => {
    const share = (k + 1) / parts;
    return blend * near * (far / near) ** share + (1 - blend) * (near + (far - near) * share);
  });
}

/** Metres from the camera at which the first cascade begins: the camera's own plane may be at 0, which no factor leads on from. */
const FIRST = 0.05;
/** Cones wider than this take a cube: a map's texels grow with the tangent. */
const WIDEST = Math.cos((60 / 180) * Math.PI);

/** What a light can have maps as; null for one that lights from all around or out of a mesh. */
export function kindOfMaps({ lights }: Pick<CompiledScene, 'lights'>, light: number): 'sun' | 'cone' | 'cube' | null {
  const o = light * LIGHT_STRIDE;
  switch (toInt(lights[o + LIGHT_KIND])) {
    case LIGHT_DISTANT:
      return 'sun';
    case LIGHT_SPHERE:
      return lights[o + SPHERE_OUTER] >= WIDEST ? 'cone' : 'cube';
    case LIGHT_RECTANGLE:
    case LIGHT_DISC:
      return 'cube';
    default:
      return null;
  }
}

/**
 * @param light row of the scene's table
 * @throws RangeError for a light without maps, see `kindOfMaps`
 */
export function framesOf(
  { lights, camera }: Pick<CompiledScene, 'lights' | 'camera'>,
  light: number,
  spec: PreviewShadowsSpec,
): MapFrame[] {
  const o = light * LIGHT_STRIDE;
  const at = (slot: number): Triple => [lights[o + slot], lights[o + slot + 1], lights[o + slot + 2]];
  switch (kindOfMaps({ lights }, light)) {
    case 'sun':
      return cascades(camera, at(DISTANT_DIRECTION), spec);
    case 'cone': {
      const outer = lights[o + SPHERE_OUTER];
      return [lampFrame(at(SPHERE_CENTRE), at(SPHERE_AXIS), Math.sqrt(1 - outer * outer) / outer, spec)];
    }
    case 'cube':
      return CUBE.map((ahead) => lampFrame(middleOf(lights, o), ahead, 1, spec));
    default:
      throw new RangeError(`light ${light} has no depth maps: it lights from all around, or out of a mesh`);
  }
}

const CUBE: readonly Triple[] = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]]; // prettier-ignore

/** Middle of a lamp, metres. @param o slot of its row */
export function middleOf(lights: Float64Array, o: number): Triple {
  const isRectangle = toInt(lights[o + LIGHT_KIND]) === LIGHT_RECTANGLE;
  return [0, 1, 2].map((a) => lights[o + SPHERE_CENTRE + a] + (isRectangle ? (lights[o + QUAD_U + a] + lights[o + QUAD_V + a]) / 2 : 0)) as Triple; // prettier-ignore
}

function lampFrame(origin: Triple, ahead: Triple, half: number, { near, lightDistance }: PreviewShadowsSpec): MapFrame {
  return { isParallel: false, origin, ahead, ...axesAcross(ahead), half, near, far: Math.max(lightDistance, near * 1.0001), to: Infinity }; // prettier-ignore
}

function cascades(camera: Float64Array, toSun: Triple, spec: PreviewShadowsSpec): MapFrame[] {
  const { mapDistance, lightDistance, cascades: count, splitBlend } = spec;
  const length = (at: number) => Math.hypot(camera[at], camera[at + 1], camera[at + 2]);
  /** Tangent squared from the axis to a corner of the frame. */
  const corner = (length(CAMERA_RIGHT) / length(CAMERA_AHEAD)) ** 2 + (length(CAMERA_UP) / length(CAMERA_AHEAD)) ** 2;
  const ahead = toSun.map((c) => -c) as Triple;
  const axes = { ahead, ...axesAcross(ahead) };
  const first = Math.min(FIRST, mapDistance / 2);
  let from = first;
  return splitsOf(first, mapDistance, count, splitBlend).map((to): MapFrame => {
    const middle = Math.min(to, ((from + to) / 2) * (1 + corner));
    const radius = Math.hypot(to - middle, Math.sqrt(corner) * to);
    const origin = [0, 1, 2].map((a) => camera[a] + (camera[CAMERA_AHEAD + a] / length(CAMERA_AHEAD)) * middle + toSun[a] * lightDistance) as Triple; // prettier-ignore
    from = to;
    return { isParallel: true, origin, ...axes, half: radius, near: 0, far: lightDistance + radius, to };
  });
}

/** Width of a texel, metres, so many metres along `ahead`. */
export const texelAt = ({ isParallel, half }: MapFrame, resolution: number, metres: number): number =>
  (2 * half * (isParallel ? 1 : metres)) / resolution;
