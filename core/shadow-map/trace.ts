/** What depth maps are compared with: the shadow of a light's middle at places of the picture, traced. */
import type { Triple } from '../data/placement.ts';
import { toInt } from '../data/numbers.ts';
import { QUAD_NORMAL } from '../lights/quad.ts';
import { SPHERE_AXIS, SPHERE_OUTER } from '../lights/sphere.ts';
import { LIGHT_DISC, LIGHT_KIND, LIGHT_RECTANGLE, LIGHT_SPHERE, LIGHT_STRIDE } from '../lights/table.ts';
import type { GridPlace } from '../place/grid.ts';
import type { SurfaceWalk } from '../place/surface-walk.ts';
import { CAMERA_AHEAD } from '../render/scene/scene.ts';
import { DISTANT_DIRECTION } from '../lights/distant.ts';
import { kindOfMaps, middleOf } from './frames.ts';

export interface TracedShadows {
  light: number;
  places: readonly GridPlace[];
  /** By place: the light shines on it, and it faces the light. Of others nothing is told. */
  isFaced: Uint8Array;
  /** Three a place, unit, towards the light's middle. */
  direction: Float64Array;
  /** Cosine to the normal that the face has. */
  cosine: Float64Array;
  /** Metres to the first surface that throws a shadow there; Infinity: lit. */
  caster: Float64Array;
  /** Metres along the camera's axis. */
  depth: Float64Array;
}

const SHORT = 1 - 1e-9;

/** @param light row of the scene's table, one that has maps: see `kindOfMaps` */
export function traceShadows(walk: SurfaceWalk, light: number, places: readonly GridPlace[]): TracedShadows {
  const { lights, camera } = walk.scene;
  const o = light * LIGHT_STRIDE;
  const n = places.length;
  const out: TracedShadows = {
    light,
    places,
    isFaced: new Uint8Array(n),
    direction: new Float64Array(3 * n),
    cosine: new Float64Array(n),
    caster: new Float64Array(n).fill(Infinity),
    depth: new Float64Array(n),
  };
  const isSun = kindOfMaps(walk.scene, light) === 'sun';
  const middle = isSun ? null : middleOf(lights, o);
  const axis = Math.hypot(camera[CAMERA_AHEAD], camera[CAMERA_AHEAD + 1], camera[CAMERA_AHEAD + 2]);
  const ray = new Float64Array(6);
  for (let k = 0; k < n; k++) {
    const { point, normal, lift } = places[k].place;
    let metres = Infinity;
    if (middle) metres = Math.hypot(middle[0] - point[0], middle[1] - point[1], middle[2] - point[2]);
    for (let a = 0; a < 3; a++) {
      ray[a] = point[a] + lift * normal[a];
      ray[3 + a] = middle ? (middle[a] - point[a]) / metres : lights[o + DISTANT_DIRECTION + a];
      out.direction[3 * k + a] = ray[3 + a];
      out.cosine[k] += ray[3 + a] * normal[a];
      out.depth[k] += ((point[a] - camera[a]) * camera[CAMERA_AHEAD + a]) / axis;
    }
    if (!(out.cosine[k] > 0) || !shinesAlong(lights, o, ray)) continue;
    out.isFaced[k] = 1;
    if (walk.meetsCaster(ray, 0, metres * SHORT)) out.caster[k] = walk.casterMetres;
  }
  return out;
}

/** Whether a light shines back along a ray towards it. */
function shinesAlong(lights: Float64Array, o: number, ray: Float64Array): boolean {
  const along = (slot: number) => -(lights[o + slot] * ray[3] + lights[o + slot + 1] * ray[4] + lights[o + slot + 2] * ray[5]); // prettier-ignore
  switch (toInt(lights[o + LIGHT_KIND])) {
    case LIGHT_SPHERE:
      return along(SPHERE_AXIS) > lights[o + SPHERE_OUTER];
    case LIGHT_RECTANGLE:
    case LIGHT_DISC:
      return along(QUAD_NORMAL) > 0;
    default:
      return true;
  }
}

/** A point on the way from a place to the light. */
export function onWay({ places, direction }: TracedShadows, k: number, metres: number, out: Triple): Triple {
  const { point } = places[k].place;
  for (let a = 0; a < 3; a++) out[a] = point[a] + metres * direction[3 * k + a];
  return out;
}
