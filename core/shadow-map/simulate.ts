/**
 * Shadows of one light as depth maps show them in a real-time preview, beside those that are there, and where the two differ
 * the settings for which they do. A map's texels are traced through the same scene as the truth, so that they differ by the
 * map alone.
 *
 * @example
 * const { places } = placesOver(walk, sheet, 20_000);
 * const traced = traceShadows(walk, row, places);
 * const { wrong, reasons } = simulate(walk, traced, document.previewShadows!);
 */
import type { Triple } from '../data/placement.ts';
import type { PreviewShadowsSpec } from '../document/schema.ts';
import { percentile } from '../picture/measured.ts';
import type { SurfaceWalk } from '../place/surface-walk.ts';
import { ContactShadows } from './contact.ts';
import { DepthMap } from './depth-map.ts';
import type { ShadowFilter } from './filters/filter.ts';
import { filterOf } from './filters/registry.ts';
import { framesOf } from './frames.ts';
import {
  BEFORE_NEAR,
  BEYOND_LIGHT,
  BEYOND_MAP,
  BIAS_TOO_LARGE,
  BIAS_TOO_SMALL,
  BITS,
  CONTACT,
  LEAK,
  REASONS,
  SOFTNESS,
  TEXELS,
  type ReasonId,
} from './reasons.ts';
import { onWay, type TracedShadows } from './trace.ts';

export interface SimulatedShadows {
  /** By place: share of the light that the preview shows there; NaN where the light does not shine. */
  light: Float32Array;
  /** Bits of `reasons.ts`; 0 where it is right. */
  why: Uint16Array;
  /** Width of a texel there in pixels of the picture; NaN beyond the maps. */
  texel: Float32Array;
  /** Number of the map that is looked up; 255: none. */
  map: Uint8Array;
  /** Places that the light shines on, as far as nothing stands between. */
  faced: number;
  /** Shares of those: shown otherwise than it is, lit instead of in shadow, and in shadow instead of lit. */
  wrong: number;
  missing: number;
  false: number;
  /** The same by reason, the greatest first; several may bite at one place. */
  reasons: { id: ReasonId; share: number }[];
  /** Pairs that hide each other: lifting one alone brings nothing back at so many of the places. */
  together: { ids: [ReasonId, ReasonId]; share: number }[];
  /** Texels in pixels: of the middle place, and of the one that 95 of 100 are finer than. */
  texels: { median: number; most: number };
  /** Metres along the camera's axis at which the maps end; of a sun. */
  splits: number[];
  /** Texels that were traced. */
  traced: number;
}

/** Shares of light between which a place is right. */
const HALF = 0.5;
/** Light inside of a shadow from which on it is a leak. */
const LEAKING = 0.1;
/** The tangent of what is met at a graze is kept at this: its bias would know no bound. */
const STEEPEST = 32;
/** Texels off the plane of a face that are still its surface, which may be curved. */
const FLAT = 0.25;

export function simulate(walk: SurfaceWalk, traced: TracedShadows, spec: PreviewShadowsSpec): SimulatedShadows {
  return new Simulation(walk, traced, spec).run();
}

class Simulation {
  private readonly filter: ShadowFilter;
  private readonly maps: DepthMap[];
  /** Those that would reach everything that is seen, to tell what else bites beyond the distance. */
  private readonly reaching: DepthMap[];
  private readonly contact: ContactShadows | null;
  private readonly at: Triple = [0, 0, 0];

  constructor(
    walk: SurfaceWalk,
    private readonly traced: TracedShadows,
    private readonly spec: PreviewShadowsSpec,
  ) {
    this.filter = filterOf(spec.filter);
    const { scene } = walk;
    const mapsOf = (own: PreviewShadowsSpec) => framesOf(scene, traced.light, own).map((frame) => new DepthMap(walk, frame, own, this.filter.isLinear)); // prettier-ignore
    this.maps = mapsOf(spec);
    const farthest = traced.depth.reduce((most, depth, k) => (traced.isFaced[k] ? Math.max(most, depth) : most), 0);
    this.reaching = farthest > spec.mapDistance ? mapsOf({ ...spec, mapDistance: farthest * (1 + 1e-9) }) : this.maps;
    this.contact = spec.contact > 0 ? new ContactShadows(walk) : null;
  }

  run(): SimulatedShadows {
    const { traced, maps } = this;
    const n = traced.places.length;
    const light = new Float32Array(n).fill(NaN);
    const why = new Uint16Array(n);
    const texel = new Float32Array(n).fill(NaN);
    const map = new Uint8Array(n).fill(255);
    for (let k = 0; k < n; k++) {
      if (!traced.isFaced[k]) continue;
      const number = this.mapAt(k);
      if (number >= 0) {
        map[k] = number;
        texel[k] = maps[number].texel(maps[number].z) / traced.places[k].place.pixel;
      }
      const shown = number < 0 ? 1 : this.shown(maps[number], k);
      const isHeld = this.contact !== null && shown > 0 && this.contact.holds(traced, k, this.spec.contact);
      light[k] = isHeld ? 0 : shown;
      why[k] = isHeld ? (traced.caster[k] === Infinity ? CONTACT : 0) : this.why(number < 0 ? null : maps[number], k, shown); // prettier-ignore
    }
    return { light, why, texel, map, ...this.told(why, texel) };
  }

  /** The map that a place is looked up in, the place projected to it; −1: none. */
  private mapAt(k: number): number {
    const { traced, maps, spec } = this;
    if (traced.depth[k] > spec.mapDistance) return -1;
    const { point } = traced.places[k].place;
    for (let m = 0; m < maps.length; m++) {
      if (traced.depth[k] > maps[m].frame.to) continue;
      if (!maps[m].project(point[0], point[1], point[2])) continue;
      const { z, frame } = maps[m];
      return z >= frame.near && z <= frame.far ? m : -1;
    }
    return -1;
  }

  /** Metres along the map's axis that are compared at the projected place. */
  private reference(map: DepthMap, k: number): number {
    const { bias, slopeBias } = this.spec;
    return map.z - bias - slopeBias * map.texel(map.z) * this.slope(map, k);
  }

  /**
   * Metres that the surface gets deeper along the map's axis for each metre across it. A lamp's texel is a pyramid: what faces
   * the lamp squarely but lies off the axis is as steep as the axis is off.
   */
  private slope(map: DepthMap, k: number): number {
    const { traced } = this;
    const { ahead, isParallel, origin } = map.frame;
    const { point, normal } = traced.places[k].place;
    const along = normal[0] * ahead[0] + normal[1] * ahead[1] + normal[2] * ahead[2];
    const across = Math.sqrt(Math.max(0, 1 - along * along));
    const stretch = isParallel
      ? 1
      : Math.hypot(point[0] - origin[0], point[1] - origin[1], point[2] - origin[2]) / map.z;
    return Math.min(STEEPEST, across / (traced.cosine[k] * stretch));
  }

  private shown(map: DepthMap, k: number): number {
    const { filter, spec } = this;
    if (filter.isWide) map.gather(spec.softness);
    else map.gatherOne();
    const reference = this.reference(map, k);
    // A bias may reach back to the lamp: nothing is stored there.
    return reference <= map.frame.near ? 1 : filter.light(map, map.encode(reference), spec);
  }

  /** Bits for which a place is shown otherwise than it is. */
  private why(map: DepthMap | null, k: number, shown: number): number {
    const { traced, spec } = this;
    const isLit = traced.caster[k] === Infinity;
    if (!isLit) {
      const limits = this.limits(k);
      if (limits !== 0 && shown > HALF) return limits;
    }
    if (!map) return 0;
    const reference = this.reference(map, k);
    const depth = map.encode(reference);
    if (!isLit && this.filter.leaks && shown > LEAKING) {
      // What every texel around holds back is light by the bound alone.
      let open = 0;
      for (let i = 0; i < map.count; i++) if (depth <= map.depths[i]) open += map.weights[i];
      if (open === 0) return LEAK;
    }
    if (isLit ? shown >= HALF : shown <= HALF) return 0;
    const own = map.depth(Math.floor(map.u), Math.floor(map.v));
    if (isLit) {
      if (depth <= map.stored(own)) return SOFTNESS;
      // A step that is finer than a texel is no matter of the bits: any bias is deeper.
      if (reference <= own && map.stepAt(map.z) > map.texel(map.z)) return BITS;
      return this.isOwnSurface(map, k, own) ? BIAS_TOO_SMALL : TEXELS;
    }
    const exact = map.exact(map.u, map.v);
    if (reference <= exact) {
      // The part that grows with the texels is theirs: were they as fine as pixels, the shadow might be there.
      const fine = Math.min(map.texel(map.z), traced.places[k].place.pixel);
      const left = map.z - spec.bias - spec.slopeBias * fine * this.slope(map, k);
      return left > exact ? TEXELS : BIAS_TOO_LARGE;
    }
    if (depth <= map.stored(exact)) return BITS;
    if (depth <= map.stored(own)) return TEXELS;
    return SOFTNESS;
  }

  /** Whether what a texel holds is the surface of the place itself, or what lies flat on it: within a part of its width. */
  private isOwnSurface(map: DepthMap, k: number, metres: number): boolean {
    const { point, normal } = this.traced.places[k].place;
    map.pointAt(Math.floor(map.u) + 0.5, Math.floor(map.v) + 0.5, metres, this.at);
    let off = 0;
    for (let a = 0; a < 3; a++) off += (this.at[a] - point[a]) * normal[a];
    return Math.abs(off) <= FLAT * map.texel(map.z);
  }

  /** Distances for which the shadow of a place is not there; all that bite. */
  private limits(k: number): number {
    const { traced, spec, reaching, at } = this;
    let bits = traced.depth[k] > spec.mapDistance ? BEYOND_MAP : 0;
    const { point } = traced.places[k].place;
    const map = reaching.find((one) => traced.depth[k] <= one.frame.to && one.project(point[0], point[1], point[2]));
    if (!map) return bits;
    const { near, far, isParallel } = map.frame;
    const caster = map.along(onWay(traced, k, traced.caster[k], at));
    if (map.z > far || (isParallel && (map.z < near || caster < near))) bits |= BEYOND_LIGHT;
    if (!isParallel && caster < near) bits |= BEFORE_NEAR;
    return bits;
  }

  private told(why: Uint16Array, texel: Float32Array) {
    const { traced, maps } = this;
    let [faced, missing, wrong] = [0, 0, 0];
    const sums = new Map<number, number>();
    const pairs = new Map<number, number>();
    for (let k = 0; k < why.length; k++) {
      if (!traced.isFaced[k]) continue;
      faced++;
      if (why[k] === 0) continue;
      wrong++;
      if (traced.caster[k] !== Infinity) missing++;
      for (const { bit } of REASONS) if (why[k] & bit) sums.set(bit, (sums.get(bit) ?? 0) + 1);
      if (why[k] & (why[k] - 1)) pairs.set(why[k], (pairs.get(why[k]) ?? 0) + 1);
    }
    const share = (count: number) => (faced > 0 ? count / faced : 0);
    const texels = [...texel].filter((pixels) => !Number.isNaN(pixels));
    return {
      faced,
      wrong: share(wrong),
      missing: share(missing),
      false: share(wrong - missing),
      reasons: REASONS.flatMap(({ id, bit }) => (sums.has(bit) ? [{ id, share: share(sums.get(bit)!) }] : [])).sort((a, b) => b.share - a.share), // prettier-ignore
      together: [...pairs].map(([bits, count]) => ({ ids: REASONS.filter(({ bit }) => bits & bit).map(({ id }) => id).slice(0, 2) as [ReasonId, ReasonId], share: share(count) })).sort((a, b) => b.share - a.share), // prettier-ignore
      texels: texels.length ? { median: percentile(texels, 0.5), most: percentile(texels, 0.95) } : { median: NaN, most: NaN }, // prettier-ignore
      splits: maps[0].frame.isParallel ? maps.map(({ frame }) => frame.to) : [],
      traced: maps.reduce((sum, one) => sum + one.traced, 0),
    };
  }
}
