/**
 * Ambient occlusion at a hit: the cosine-weighted share of a cone of rays that meets nothing within a distance.
 * Outward it starts on the side that is seen, inward in the body behind it.
 */
import { fade, NO_FALLOFF } from '../../data/falloff.ts';
import type { f64, i32 } from '../../data/numbers.ts';
import { turn } from '../../data/turns.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { OCCLUSION_RAY } from '../../geometry/ray-kinds.ts';
import { fresnelDielectric } from '../../materials/fresnel.ts';
import { luminance } from '../../data/colour.ts';
import { MATERIAL_BASE, MATERIAL_IOR, MATERIAL_STRIDE } from '../scene/material-row.ts';
import { dimension, SLOT_OCCLUSION, type GroupRandom } from '../film/random.ts';
import { HAS_ALPHA, IS_BACK_ONLY, IS_FRONT_ONLY, IS_GLASS, type CompiledScene } from '../scene/scene.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { Shading } from './shading.ts';

export class Occlusion {
  private readonly turned = new Float64Array(2);
  private readonly distance: number;
  private readonly falloff: i32;
  private readonly sine2: number;
  private readonly side: number;
  private readonly seeThrough: boolean;

  constructor(
    private readonly scene: CompiledScene,
    settings: PathSettings,
    private readonly random: GroupRandom,
    private readonly rays: Intersector,
    private readonly shading: Shading,
  ) {
    const { distance, falloff, sine2, side, seeThrough } = settings.occlusion;
    this.distance = distance;
    this.falloff = falloff;
    this.sine2 = sine2;
    this.side = side;
    this.seeThrough = seeThrough;
  }

  /** One ray of the cone, number `index`: 1 open, 0 shut, or what glass and cut-outs on its way let through and what is far leaves. */
  ray(index: i32): number {
    const { random, rays, shading, side } = this;
    random.draw(dimension(0, SLOT_OCCLUSION), index);
    // Cosine-weighted within the cone: even over the disc that it casts below.
    const r = Math.sqrt(random.u * this.sine2);
    turn(random.v, this.turned);
    const d = shading.toWorld(r * this.turned[0], r * this.turned[1], side * Math.sqrt(Math.max(0, 1 - r * r)));
    const dx = d[0];
    const dy = d[1];
    const dz = d[2];
    const out = shading.side(dx, dy, dz);
    // Below the face itself: a smooth normal may lean that far.
    if (out * side <= 0) return 0;
    const { point, normal } = shading;
    const off = side * shading.rayOffset;
    const x = point[0] + normal[0] * off;
    const y = point[1] + normal[1] * off;
    const z = point[2] + normal[2] * off;
    if (!this.seeThrough && this.falloff === NO_FALLOFF)
      return rays.occluded(x, y, z, dx, dy, dz, this.distance, OCCLUSION_RAY) ? 0 : 1;
    let open: f64 = 1;
    let hit = rays.closest(x, y, z, dx, dy, dz, this.distance, OCCLUSION_RAY);
    if (!this.seeThrough) return hit ? fade(this.falloff, rays.t / this.distance) : 1;
    while (hit && open > 0) {
      const lets = this.lets(x, y, z, dx, dy, dz);
      if (this.falloff === NO_FALLOFF) open *= lets;
      else open *= 1 - (1 - lets) * (1 - fade(this.falloff, rays.t / this.distance));
      hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    }
    return open;
  }

  /** Share of what comes along a direction that the present hit lets through: 0 opaque, 1 not there. */
  lets(x: number, y: number, z: number, dx: number, dy: number, dz: number): number {
    const { scene, rays, shading } = this;
    const { instance, triangle, t, u, v } = rays;
    const flags = scene.instanceFlags[instance];
    const front = shading.cosine(dx, dy, dz);
    if ((flags & IS_FRONT_ONLY) !== 0 && front < 0) return 1;
    if ((flags & IS_BACK_ONLY) !== 0 && front > 0) return 1;
    const there =
      (flags & HAS_ALPHA) !== 0 ? shading.alpha(instance, triangle, u, v, x + t * dx, y + t * dy, z + t * dz) : 1;
    if ((flags & IS_GLASS) === 0) return 1 - there;
    const o = scene.instanceMaterial[instance] * MATERIAL_STRIDE;
    const { materials } = scene;
    const f = fresnelDielectric(Math.abs(front), materials[o + MATERIAL_IOR]);
    const filter = luminance(
      materials[o + MATERIAL_BASE],
      materials[o + MATERIAL_BASE + 1],
      materials[o + MATERIAL_BASE + 2],
    );
    return 1 - there * (1 - (1 - f) * filter);
  }
}
