/**
 * What stands between a point and a light: nothing, something, or glass and cut-out surfaces that let part of
 * the light through, straight and tinted.
 */
import { toInt, type f64, type i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { ANY_SHADOW_RAY, SHADOW_RAY, SHADOW_THROUGH_RAY } from '../../geometry/ray-kinds.ts';
import {
  CASTS_SHADOWS,
  LIGHT_FLAGS,
  LIGHT_SHADOW_COLOUR,
  LIGHT_SHADOW_DISTANCE,
  LIGHT_STRIDE,
  SHADOW_LINKED,
  TINTED_SHADOWS,
} from '../../lights/table.ts';
import { fresnelDielectric } from '../../materials/fresnel.ts';
import { FogInterval } from '../scene/fog.ts';
import {
  MATERIAL_ABSORPTION,
  MATERIAL_BASE,
  MATERIAL_IOR,
  MATERIAL_STRIDE,
  MATERIAL_THICKNESS,
} from '../scene/material-row.ts';
import { MediumStack } from './medium-stack.ts';
import type { PathContext } from './path-context.ts';
import { HAS_ALPHA, IS_BACK_ONLY, IS_FRONT_ONLY, IS_SEE_THROUGH, IS_THIN, type CompiledScene } from '../scene/scene.ts';
import type { Shading } from './shading.ts';

export class ShadowRay {
  /** Share of the light that gets through, per channel. */
  readonly transmittance = new Float64Array(3);
  /** Glass faces and see-through surfaces passed. */
  faces: i32 = 0;
  passes: i32 = 0;

  private readonly media: MediumStack;
  private readonly fog: FogInterval | null;
  private readonly ray = new Float64Array(6);

  private readonly scene: CompiledScene;
  private readonly rays: Intersector;
  private readonly shading: Shading;
  private readonly rayDistance: number;

  constructor({ scene, rays, shading, settings }: Pick<PathContext, 'scene' | 'rays' | 'shading' | 'settings'>) {
    this.scene = scene;
    this.rays = rays;
    this.shading = shading;
    this.rayDistance = settings.rayDistance;
    this.media = new MediumStack(scene);
    this.fog = scene.fog === null ? null : new FogInterval(scene.fog);
  }

  /**
   * Traces from `origin` along a unit direction; fills `transmittance`, `faces` and `passes`.
   * @param within bodies of glass that the origin lies in
   * @param unshaded the lit object takes the light whatever stands between
   * @returns whether anything gets through
   */
  isVisible(
    light: i32,
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    distance: number,
    within: MediumStack,
    unshaded: boolean,
  ): boolean {
    const { scene, transmittance, ray } = this;
    const { lights } = scene;
    const o = light * LIGHT_STRIDE;
    const flags = toInt(lights[o + LIGHT_FLAGS]);
    transmittance[0] = transmittance[1] = transmittance[2] = 1;
    this.faces = this.passes = 0;
    ray[0] = ox;
    ray[1] = oy;
    ray[2] = oz;
    ray[3] = dx;
    ray[4] = dy;
    ray[5] = dz;
    let open = true;
    if ((flags & CASTS_SHADOWS) !== 0 && !unshaded) {
      const end = Math.min(Math.min(distance, lights[o + LIGHT_SHADOW_DISTANCE]), this.rayDistance);
      open = this.isOpen(light, flags, end, within);
      if ((flags & TINTED_SHADOWS) !== 0) {
        for (let a = 0; a < 3; a++) {
          const left = lights[o + LIGHT_SHADOW_COLOUR + a];
          transmittance[a] = open ? left + (1 - left) * transmittance[a] : left;
        }
        open = true;
      }
    }
    if (!open) return false;
    if (this.fog !== null && within.inside() < 0) {
      this.fog.set(ray, distance);
      const { through } = this.fog;
      for (let a = 0; a < 3; a++) transmittance[a] *= through;
    }
    return transmittance[0] + transmittance[1] + transmittance[2] > 0;
  }

  private isOpen(light: i32, flags: i32, end: number, within: MediumStack): boolean {
    const { scene, rays, ray } = this;
    const linked = (flags & SHADOW_LINKED) !== 0;
    if (!linked && rays.occluded(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], end, SHADOW_RAY)) return false;
    if (!linked && !scene.hasThroughShadows) {
      const inside = within.inside();
      if (inside >= 0) this.absorb(inside, end);
      return true;
    }
    const mask = linked ? ANY_SHADOW_RAY : SHADOW_THROUGH_RAY;
    const { media } = this;
    media.copy(within);
    let from: f64 = 0;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], end, mask);
    while (hit) {
      const { instance, t } = rays;
      const object = scene.instanceObject[instance];
      if (!linked || scene.shadowLinks![light * scene.objectCount + object] === 1) {
        const inside = media.inside();
        if (inside >= 0) this.absorb(inside, t - from);
        from = t;
        if (!this.lets(instance)) return false;
      }
      hit = rays.closestAfter(t, instance, rays.triangle);
    }
    const inside = media.inside();
    if (inside >= 0) this.absorb(inside, end - from);
    return true;
  }

  /** Dims the light by the surface that was hit; false when nothing gets through. */
  private lets(instance: i32): boolean {
    const { scene, rays, shading, ray, transmittance, media } = this;
    const flags = scene.instanceFlags[instance];
    const front = shading.cosine(ray[3], ray[4], ray[5]);
    if ((flags & IS_FRONT_ONLY) !== 0 && front < 0) return true;
    if ((flags & IS_BACK_ONLY) !== 0 && front > 0) return true;
    let there: f64 = 1;
    if ((flags & HAS_ALPHA) !== 0) {
      const { triangle, u, v, t } = rays;
      const x = ray[0] + t * ray[3];
      const y = ray[1] + t * ray[4];
      const z = ray[2] + t * ray[5];
      there = shading.alpha(instance, triangle, u, v, x, y, z);
      if (there < 1) this.passes++;
    }
    const o = scene.instanceMaterial[instance] * MATERIAL_STRIDE;
    const { materials } = scene;
    if ((flags & IS_SEE_THROUGH) === 0) {
      for (let a = 0; a < 3; a++) transmittance[a] *= 1 - there;
      return there < 1;
    }
    const cosine = Math.abs(front);
    if ((flags & IS_THIN) !== 0) {
      this.faces++;
      const ior = materials[o + MATERIAL_IOR];
      const f = fresnelDielectric(cosine, ior);
      const way = materials[o + MATERIAL_THICKNESS] / Math.sqrt(1 - (1 - cosine * cosine) / (ior * ior));
      for (let a = 0; a < 3; a++) {
        const wall =
          ((1 - f) / (1 + f)) *
          materials[o + MATERIAL_BASE + a] *
          Math.exp(-materials[o + MATERIAL_ABSORPTION + a] * way);
        transmittance[a] *= 1 - there * (1 - wall);
      }
    } else {
      const entering = front > 0;
      if (media.isFace(instance, entering)) {
        this.faces++;
        // Straight, and so without total reflection: the reflectance is that of the side of lower index.
        const eta = media.eta(instance, entering);
        const f = fresnelDielectric(cosine, Math.max(eta, 1 / eta));
        for (let a = 0; a < 3; a++) transmittance[a] *= 1 - there * (1 - (1 - f) * materials[o + MATERIAL_BASE + a]);
      }
      media.cross(instance, entering);
    }
    return transmittance[0] + transmittance[1] + transmittance[2] > 0;
  }

  private absorb(instance: i32, distance: number): void {
    const { scene, transmittance } = this;
    const m = scene.instanceMaterial[instance] * MATERIAL_STRIDE + MATERIAL_ABSORPTION;
    for (let a = 0; a < 3; a++)
      if (scene.materials[m + a] > 0) transmittance[a] *= Math.exp(-scene.materials[m + a] * distance);
  }
}
