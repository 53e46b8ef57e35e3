/**
 * From a place on a surface towards a light: what arrives as the renderer has it, and every surface on the way with the
 * reasons for which it throws no shadow there. Light with any of those reasons put right follows from the same rays.
 *
 * Rays are spread evenly over a light by the Hammersley points (Hammersley & Handscomb 1964; radical inverse of van der
 * Corput 1935), so that answers are the same every time.
 *
 * @example
 * const walk = new LightWalk(scene, document, settingsOf(sheet));
 * const place = walk.surfaceAt(240, 135)!;
 * const { rays } = walk.towards(place, 0, 64);
 * arrivingWith(rays, 0);            // W/m², as rendered
 * arrivingWith(rays, ALL_SWITCHES); // with every shadow that nature throws
 */
import { luminance } from '../data/colour.ts';
import { toInt } from '../data/numbers.ts';
import type { Triple } from '../data/placement.ts';
import type { ShotDocument } from '../document/schema.ts';
import { ALL_RAYS } from '../geometry/intersector.ts';
import { ANY_SHADOW_RAY } from '../geometry/ray-kinds.ts';
import { LightSampler } from '../lights/light-sampler.ts';
import {
  CASTS_SHADOWS,
  LIGHT_DISC,
  LIGHT_FLAGS,
  LIGHT_KIND,
  LIGHT_RECTANGLE,
  LIGHT_SHADOW_COLOUR,
  LIGHT_SHADOW_DISTANCE,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
  POINT_LIKE,
  SHADOW_LINKED,
  TINTED_SHADOWS,
} from '../lights/table.ts';
import { QUAD_U, QUAD_V } from '../lights/quad.ts';
import { SPHERE_CENTRE } from '../lights/sphere.ts';
import { aimedGlow } from '../render/path/aimed-glow.ts';
import { MediumStack } from '../render/path/medium-stack.ts';
import { ShadowRay } from '../render/path/shadow-ray.ts';
import {
  IS_SEE_THROUGH,
  IS_SHADOW_ONLY,
  IS_UNSHADED,
  type CompiledScene,
  type RenderSettings,
} from '../render/scene/scene.ts';
import { MOST_HITS, SurfaceWalk, type Place } from './surface-walk.ts';
import {
  LIGHT_CASTS_NONE,
  NOT_LINKED,
  OBJECT_CASTS_NONE,
  OBJECT_SWITCHES,
  ONE_SIDED,
  RAY_DISTANCE,
  RECEIVER_TAKES_NONE,
  SHADOW_COLOUR,
  SHADOW_DISTANCE,
} from './switches.ts';

/** A surface between a place and a light. */
export interface Hit {
  object: number;
  /** Metres from the place. */
  metres: number;
  /** Share of the light that it holds back, 0–1. */
  block: number;
  /** Bits of `switches.ts` for which it holds back nothing; 0: it does. */
  reasons: number;
}

/** One ray from the place to the light. */
export interface WalkedRay {
  /** Irradiance that comes with it where nothing stands between, luminance, W/m². */
  light: number;
  /** Share of it that arrives, by channel and of its luminance, and before the light tints its shadows. */
  through: Triple;
  share: number;
  untinted: number;
  /** What is left of the light in its shadow; 0: black. */
  tint: number;
  /** Bits that keep the tint away, for the light casts no shadow here at all. */
  noShadow: number;
  /** Unit. */
  direction: Triple;
  /** Metres; Infinity for what is far. */
  metres: number;
  /** In order. */
  hits: Hit[];
}

export interface Walk {
  rays: WalkedRay[];
  /** Share of the rays towards the light that leave on the side of the surface that is seen, and reach its shining side. */
  faced: number;
  shines: number;
}

const SHORT = 1 - 1e-9;
/** Along no edge and no face that people model, of unit length within 2 %. */
const ASLANT: Triple = [0.367, 0.871, 0.319];

export class LightWalk extends SurfaceWalk {
  private readonly sampler: LightSampler;
  private readonly shadow: ShadowRay;
  private readonly outside: MediumStack;
  /** By object: it is there for the eye, though it throws no shadow. */
  private readonly isSeen: boolean[];

  constructor(
    scene: CompiledScene,
    readonly document: ShotDocument,
    settings: RenderSettings,
  ) {
    super(scene, settings);
    this.isSeen = scene.objectIds.map((id) => document.objects[id].visibility.camera);
    this.sampler = new LightSampler(scene);
    this.shadow = new ShadowRay({ scene, rays: this.rays, shading: this.shading, settings: this.settings });
    this.outside = new MediumStack(scene);
  }

  /**
   * @param light row of the scene's table
   * @param count of rays; a light without size takes one
   */
  towards(place: Place, light: number, count: number): Walk {
    const { scene, sampler, shading, rays } = this;
    const { point, normal, shadingNormal } = place;
    rays.slice = scene.slices >> 1;
    const flags = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]);
    const n = (flags & POINT_LIKE) !== 0 ? 1 : count;
    const out: Walk = { rays: [], faced: 0, shines: 0 };
    for (let k = 0; k < n; k++) {
      const shines =
        sampler.aim(light, point[0], point[1], point[2], (k + 0.5) / n, radicalInverse(k)) &&
        (sampler.emitter < 0 || aimedGlow(scene, sampler, shading));
      const direction = [...sampler.direction] as Triple;
      const cosine = dot(direction, shadingNormal);
      const isFaced = cosine > 0 && dot(direction, normal) > 0;
      if (isFaced) out.faced += 1 / n;
      if (shines) out.shines += 1 / n;
      if (!shines || !isFaced) continue;
      const { radiance, density, distance } = sampler;
      const brought = (luminance(radiance[0], radiance[1], radiance[2]) * cosine) / (density * n);
      if (brought > 0) out.rays.push(this.walked(place, light, flags, brought, direction, distance));
    }
    return out;
  }

  /** Object that a light stands inside of. −1: in none, or the light stands at no place. */
  insideOf(light: number): number {
    const { scene } = this;
    const o = light * LIGHT_STRIDE;
    const kind = toInt(scene.lights[o + LIGHT_KIND]);
    if (kind !== LIGHT_SPHERE && kind !== LIGHT_RECTANGLE && kind !== LIGHT_DISC) return -1;
    const centre = [0, 1, 2].map((a) => scene.lights[o + SPHERE_CENTRE + a] + (kind === LIGHT_RECTANGLE ? (scene.lights[o + QUAD_U + a] + scene.lights[o + QUAD_V + a]) / 2 : 0)) as Triple; // prettier-ignore
    return this.bodiesAt(centre)[0] ?? -1;
  }

  /** Objects that a point lies inside of, by how often rays both ways along a line cross their faces: once too often out of a closed body (Jordan). */
  bodiesAt(centre: Triple): number[] {
    const { scene, rays, ray } = this;
    const crossed = [1, -1].map((way) => {
      const faces = new Map<number, number>();
      for (let a = 0; a < 3; a++) {
        ray[a] = centre[a];
        ray[3 + a] = way * ASLANT[a];
      }
      let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], Infinity, ALL_RAYS);
      for (let n = 0; hit && n < MOST_HITS; n++) {
        const object = scene.instanceObject[rays.instance];
        faces.set(object, (faces.get(object) ?? 0) + 1);
        hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
      }
      return faces;
    });
    return [...crossed[0]].flatMap(([object, n]) =>
      n % 2 === 1 && (crossed[1].get(object) ?? 0) % 2 === 1 ? [object] : [],
    );
  }

  /** Share of a light's luminance that arrives at a place along a unit direction, from so many metres away. */
  shareFrom(place: Place, light: number, [dx, dy, dz]: Triple, metres: number): number {
    const { scene, shadow, outside } = this;
    const isUnshaded = (scene.instanceFlags[place.instance] & IS_UNSHADED) !== 0;
    const [x, y, z] = place.point.map((c, a) => c + place.normal[a] * place.lift);
    outside.clear();
    if (!shadow.isVisible(light, x, y, z, dx, dy, dz, metres * SHORT, outside, isUnshaded)) return 0;
    const { transmittance } = shadow;
    return luminance(transmittance[0], transmittance[1], transmittance[2]);
  }

  private walked(
    place: Place,
    light: number,
    flags: number,
    brought: number,
    direction: Triple,
    metres: number,
  ): WalkedRay {
    const { scene, settings } = this;
    const o = light * LIGHT_STRIDE;
    const isUnshaded = (scene.instanceFlags[place.instance] & IS_UNSHADED) !== 0;
    const from = place.point.map((c, a) => c + place.normal[a] * place.lift) as Triple;
    const end = metres * SHORT;
    const share = this.shareFrom(place, light, direction, metres);
    const through = (share > 0 ? [...this.shadow.transmittance] : [0, 0, 0]) as Triple;
    const hasTint = (flags & TINTED_SHADOWS) !== 0 && (flags & CASTS_SHADOWS) !== 0 && !isUnshaded;
    const tint = (flags & TINTED_SHADOWS) !== 0 ? luminance(scene.lights[o + LIGHT_SHADOW_COLOUR], scene.lights[o + LIGHT_SHADOW_COLOUR + 1], scene.lights[o + LIGHT_SHADOW_COLOUR + 2]) : 0; // prettier-ignore
    const noShadow = ((flags & CASTS_SHADOWS) === 0 ? LIGHT_CASTS_NONE : 0) | (isUnshaded ? RECEIVER_TAKES_NONE : 0);
    const hits = this.hitsOn(light, flags, noShadow, from, direction, end, settings.rayDistance);
    return {
      light: brought,
      through,
      share,
      untinted: hasTint ? (tint < 1 ? Math.max(0, (share - tint) / (1 - tint)) : hits.reduce((left, { block, reasons }) => (reasons ? left : left * (1 - block)), 1)) : share, // prettier-ignore
      tint,
      noShadow,
      direction,
      metres,
      hits,
    };
  }

  private hitsOn(
    light: number,
    flags: number,
    noShadow: number,
    from: Triple,
    direction: Triple,
    end: number,
    rayDistance: number,
  ): Hit[] {
    const { scene, rays, ray } = this;
    const reach = scene.lights[light * LIGHT_STRIDE + LIGHT_SHADOW_DISTANCE];
    const out: Hit[] = [];
    for (let a = 0; a < 3; a++) {
      ray[a] = from[a];
      ray[3 + a] = direction[a];
    }
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], end, ALL_RAYS);
    for (; hit && out.length < MOST_HITS; hit = rays.closestAfter(rays.t, rays.instance, rays.triangle)) {
      const { instance, t } = rays;
      const own = scene.instanceFlags[instance];
      const object = scene.instanceObject[instance];
      const casts = (scene.geometry.instanceMask[instance] & ANY_SHADOW_RAY) !== 0;
      // What is seen by nobody throws no shadow by right; glass that lets shadow rays through has its part in what arrives.
      if ((own & (IS_SHADOW_ONLY | IS_SEE_THROUGH)) !== 0 || (!casts && !this.isSeen[object])) continue;
      const isLinked = (flags & SHADOW_LINKED) === 0 || scene.shadowLinks![light * scene.objectCount + object] === 1;
      const block = this.thereAt(own, ray);
      if (block > 0)
        out.push({
          object,
          metres: t,
          block,
          reasons:
            noShadow |
            (casts ? 0 : OBJECT_CASTS_NONE) |
            (this.isTurned(own) ? ONE_SIDED : 0) |
            (isLinked ? 0 : NOT_LINKED) |
            (t > reach ? SHADOW_DISTANCE : 0) |
            (t > rayDistance ? RAY_DISTANCE : 0),
        });
    }
    return out;
  }
}

/**
 * Irradiance of a walk with some switches put right, luminance, W/m².
 * @param right bits of `switches.ts`; 0: as rendered
 * @param objects whose own switch is put right; null: all
 */
export function arrivingWith(
  rays: readonly WalkedRay[],
  right: number,
  objects: ReadonlySet<number> | null = null,
): number {
  let sum = 0;
  for (const { light, untinted, tint, noShadow, hits } of rays) {
    let share = untinted;
    for (const hit of hits) {
      if (hit.reasons === 0 || (hit.reasons & ~right) !== 0) continue;
      if (objects !== null && (hit.reasons & OBJECT_SWITCHES) !== 0 && !objects.has(hit.object)) continue;
      share *= 1 - hit.block;
    }
    const isTinted = tint > 0 && (right & SHADOW_COLOUR) === 0 && (noShadow & ~right) === 0;
    sum += light * (isTinted ? tint + (1 - tint) * share : share);
  }
  return sum;
}

/** Irradiance of a walk where nothing stands between. */
export const unshadowed = (rays: readonly WalkedRay[]): number => rays.reduce((sum, { light }) => sum + light, 0);

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Digits of a number in base two, mirrored at the point. */
export function radicalInverse(k: number): number {
  let out = 0;
  for (let half = 0.5; k > 0; k >>= 1, half /= 2) if (k & 1) out += half;
  return out;
}
