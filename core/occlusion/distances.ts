/**
 * Ambient occlusion at every distance from one trace: how far each ray of a place goes before something occludes it is kept, so
 * that the pass at any distance is a matter of comparing numbers.
 *
 * @example
 * const { places } = placesOver(walk, sheet, 4000);
 * const traced = traceDistances(walk, sheet.occlusion, places);
 * opennessAt(traced, 0.8, sheet.occlusion, new Float32Array(places.length));
 */
import { axesAcross } from '../data/axes-across.ts';
import { fade, falloffNumber, type Falloff } from '../data/falloff.ts';
import type { Sheet } from '../document/schema.ts';
import { OCCLUSION_RAY } from '../geometry/ray-kinds.ts';
import type { GridPlace } from '../place/grid.ts';
import { radicalInverse } from '../place/light-walk.ts';
import { SurfaceWalk, type Place } from '../place/surface-walk.ts';
import { GroupRandom } from '../render/film/random.ts';
import { Occlusion } from '../render/path/occlusion.ts';
import { settingsOf, type CompiledScene } from '../render/scene/scene.ts';

export interface TracedDistances {
  places: readonly GridPlace[];
  rays: number;
  /** By place and ray, metres to the first surface that occludes, whatever it is; Infinity: none does. */
  first: Float32Array;
  /** The same to the first that is no glass and not cut out. */
  solid: Float32Array;
  /** Share that glass and cut-outs before that let through. */
  left: Float32Array;
  /** How many of those there are. */
  layers: Uint8Array;
  /** Object that is met first, −1: none. */
  object: Int32Array;
}

export const OCCLUSION_RAYS = 64;
/** See-through surfaces on one ray before it is given up. */
const MOST = 64;
/** What lets less through than this is solid. */
const SOLID = 1e-3;

/** Meets surfaces as the renderer's own occlusion does. */
export class OcclusionWalk extends SurfaceWalk {
  private readonly occlusion: Occlusion;
  private readonly axis = new Float64Array(9);

  constructor(scene: CompiledScene, sheet: Sheet) {
    super(scene, settingsOf(sheet));
    this.occlusion = new Occlusion(scene, this.settings, new GroupRandom(), this.rays, this.shading);
  }

  /**
   * @param cone half angle, degrees; rays are cosine-weighted within, by the Hammersley points turned place by place
   * @param at where a place's rays begin in `out`
   */
  distances(place: Place, number: number, { cone, direction }: Sheet['occlusion'], out: TracedDistances, at: number): void {
    const { rays, axis, occlusion, scene } = this;
    const side = direction === 'inward' ? -1 : 1;
    const sine = Math.sin((cone * Math.PI) / 180);
    const { right, up } = axesAcross(place.shadingNormal);
    axis.set([...right, ...up, ...place.shadingNormal]);
    rays.slice = scene.slices >> 1;
    const off = side * place.lift;
    const [x, y, z] = place.point.map((c, a) => c + off * place.normal[a]);
    const turn = radicalInverse(number + 1);
    for (let k = 0; k < out.rays; k++) {
      const r = sine * Math.sqrt((k + 0.5) / out.rays);
      const angle = 2 * Math.PI * (radicalInverse(k) + turn);
      const [u, v, w] = [r * Math.cos(angle), r * Math.sin(angle), side * Math.sqrt(Math.max(0, 1 - r * r))];
      const dx = u * axis[0] + v * axis[3] + w * axis[6];
      const dy = u * axis[1] + v * axis[4] + w * axis[7];
      const dz = u * axis[2] + v * axis[5] + w * axis[8];
      const i = at + k;
      out.left[i] = 1;
      out.object[i] = -1;
      out.first[i] = out.solid[i] = Infinity;
      // Below the face itself, as the renderer has it: a smooth normal may lean that far.
      if ((dx * place.normal[0] + dy * place.normal[1] + dz * place.normal[2]) * side <= 0) {
        out.first[i] = out.solid[i] = 0;
        continue;
      }
      let hit = rays.closest(x, y, z, dx, dy, dz, Infinity, OCCLUSION_RAY);
      for (let n = 0; hit && n < MOST; n++) {
        const { t, instance, triangle } = rays;
        const left = occlusion.lets(x, y, z, dx, dy, dz);
        if (left < 1 && out.first[i] === Infinity) {
          out.first[i] = t;
          out.object[i] = scene.instanceObject[instance];
        }
        if (left < SOLID) {
          out.solid[i] = t;
          break;
        }
        out.left[i] *= left;
        if (left < 1) out.layers[i] += 1;
        hit = rays.closestAfter(t, instance, triangle);
      }
    }
  }
} // prettier-ignore

export function traceDistances(
  walk: OcclusionWalk,
  occlusion: Sheet['occlusion'],
  places: readonly GridPlace[],
  rays = OCCLUSION_RAYS,
): TracedDistances {
  const n = places.length * rays;
  const out: TracedDistances = {
    places,
    rays,
    first: new Float32Array(n),
    solid: new Float32Array(n),
    left: new Float32Array(n),
    layers: new Uint8Array(n),
    object: new Int32Array(n),
  };
  for (const [k, { place }] of places.entries()) walk.distances(place, k, occlusion, out, k * rays);
  return out;
}

/** What of a sheet's occlusion decides how far and what occludes, beside its distance. */
export interface OcclusionRule {
  /** Glass and cut-outs occlude by what they hold back, otherwise like walls. */
  seeThrough: boolean;
  falloff: Falloff;
}

/**
 * The pass at a distance: by place the share of rays that nothing occludes, 0 shut to 1 open. With a falloff glass and cut-outs
 * before what is solid are taken to be alike, and all where the first of them is.
 * @param metres Infinity: any distance
 */
export function opennessAt(
  { first, solid, left, layers, rays }: Pick<TracedDistances, 'first' | 'solid' | 'left' | 'layers' | 'rays'>,
  metres: number,
  rule: OcclusionRule,
  out: Float32Array,
): Float32Array {
  const falloff = falloffNumber(rule.falloff);
  for (let k = 0; k < out.length; k++) {
    let open = 0;
    for (let i = k * rays; i < (k + 1) * rays; i++) {
      const isOpen = first[i] > metres || first[i] === Infinity;
      if (isOpen) open += 1;
      else if (!rule.seeThrough) open += fade(falloff, first[i] / metres);
      else {
        const behind = solid[i] > metres || solid[i] === Infinity ? 1 : fade(falloff, solid[i] / metres);
        const n = Math.max(1, layers[i]);
        open += behind * (1 - (1 - left[i] ** (1 / n)) * (1 - fade(falloff, first[i] / metres))) ** n;
      }
    }
    out[k] = open / rays;
  }
  return out;
}
