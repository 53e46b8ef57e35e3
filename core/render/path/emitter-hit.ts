/**
 * Light that rays meet on their way: lights with a body, what is far when a ray leaves the scene, and surfaces
 * that shine. Weighed against the shadow rays that would have found it, see `direct-light.ts`.
 *
 * Lights have no bodies that stop anything: a ray that meets one takes its light along and goes on.
 */
import { toInt, type i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { EMITTER_DENSITY, EMITTER_STRIDE } from '../../lights/mesh-light.ts';
import { skyRadiance } from '../../lights/sky.ts';
import { TREE_RADIUS2, TREE_STRIDE } from '../../lights/light-tree.ts';
import { FAR, LIGHT_FLAGS, LIGHT_GROUP, LIGHT_STRIDE, POINT_LIKE } from '../../lights/table.ts';
import type { Collector } from './collector.ts';
import type { DirectLight } from './direct-light.ts';
import { BACKGROUND, EMISSION, passOf } from '../film/passes.ts';
import type { PathContext } from './path-context.ts';
import type { PathState } from './path-state.ts';
import type { CompiledScene } from '../scene/scene.ts';
import type { Shading } from './shading.ts';

/** What rounding may do to a distance, generously. */
const LOOSE = 1 + 1e-9;
const ROUNDING = 1e-14;

export class EmitterHit {
  private readonly sky = new Float64Array(3);

  private readonly scene: CompiledScene;
  private readonly path: PathState;
  private readonly rays: Intersector;
  private readonly shading: Shading;
  private readonly collector: Collector;

  constructor(
    { scene, path, rays, shading, collector }: PathContext,
    private readonly directLight: DirectLight,
  ) {
    this.scene = scene;
    this.path = path;
    this.rays = rays;
    this.shading = shading;
    this.collector = collector;
  }

  /** The pass of light met by the present ray. */
  private reach(unscattered: i32): i32 {
    const { path } = this;
    return path.firstKind < 0 ? unscattered : passOf(path.firstKind, path.straight || path.total === 1);
  }

  /** Lights with a body that stand on the ray before `end`, found through the tree that lights are chosen by. */
  bodies(end: number): void {
    const { scene, path, directLight } = this;
    const { sampler } = directLight;
    const { links, after } = scene.lightTree;
    let node = 0;
    while (node < after.length) {
      if (!this.mayTouch(node)) {
        node = after[node];
        continue;
      }
      const light = -1 - links[node * 2];
      node++;
      if (light < 0 || (toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]) & POINT_LIKE) !== 0) continue;
      const t = sampler.hitBody(light, path.ray);
      if (t < end && sampler.meet(light, path.ray, t)) this.collectLight(light, t, EMISSION);
    }
  }

  /** Whether the ray may come through the sphere around a node of the light tree. */
  private mayTouch(node: i32): boolean {
    const { nodes } = this.scene.lightTree;
    const { ray } = this.path;
    const n = node * TREE_STRIDE;
    const x = nodes[n] - ray[0];
    const y = nodes[n + 1] - ray[1];
    const z = nodes[n + 2] - ray[2];
    const along = x * ray[3] + y * ray[4] + z * ray[5];
    const off2 = x * x + y * y + z * z - along * along;
    const reach2 = nodes[n + TREE_RADIUS2] * LOOSE;
    return off2 <= reach2 + (x * x + y * y + z * z) * ROUNDING && (along >= 0 || along * along <= reach2 - off2);
  }

  /** Everything far, for a ray that leaves the scene. */
  far(): void {
    const { scene, path, directLight, sky } = this;
    const { sampler } = directLight;
    const { ray } = path;
    if (scene.background !== null && path.straight && path.density === 0) {
      if (path.firstKind >= 0 || !scene.hidesBackground) {
        skyRadiance(scene.background, scene.chains, ray[3], ray[4], ray[5], sky);
        this.collect(this.reach(BACKGROUND), 0, -1, sky[0], sky[1], sky[2], 1);
      }
    } else if (sampler.meet(scene.skyLight, ray, Infinity)) this.collectLight(scene.skyLight, Infinity, BACKGROUND);
    for (let light = 0; light < scene.skyLight; light++) {
      const flags = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_FLAGS]);
      if ((flags & FAR) === 0 || (flags & POINT_LIKE) !== 0) continue;
      if (sampler.meet(light, ray, Infinity)) this.collectLight(light, Infinity, EMISSION);
    }
  }

  /** Adds a light that the ray has met at `t`, which the sampler tells. */
  private collectLight(light: i32, t: number, unscattered: i32): void {
    const { scene, path, directLight } = this;
    const { radiance, density } = directLight.sampler;
    if (!directLight.serves(light, path.lastKind, path.object, path.bounces, path.length + t)) return;
    const weight = directLight.misWeight(light, density);
    if (weight === 0) return;
    const group = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_GROUP]);
    this.collect(this.reach(unscattered), group, light, radiance[0], radiance[1], radiance[2], weight);
  }

  /** The surface that the ray has just met shines itself. */
  emitter(): void {
    const { scene, path, rays, shading, directLight } = this;
    const { u, v, t, instance, triangle } = rays;
    const { ray } = path;
    const light = scene.instanceLight[instance];
    if (light < 0) return;
    if (!directLight.serves(light, path.lastKind, path.object, path.bounces, path.length + t)) return;
    const cosine = Math.abs(shading.cosine(ray[3], ray[4], ray[5]));
    const row = scene.instanceEmitter[instance] + triangle;
    const density = (scene.emitters.rows[row * EMITTER_STRIDE + EMITTER_DENSITY] * t * t) / cosine;
    const weight = directLight.misWeight(light, density);
    if (weight === 0) return;
    const x = ray[0] + t * ray[3];
    const y = ray[1] + t * ray[4];
    const z = ray[2] + t * ray[5];
    shading.emission(instance, triangle, u, v, x, y, z);
    const { emitted } = shading;
    const group = toInt(scene.lights[light * LIGHT_STRIDE + LIGHT_GROUP]);
    this.collect(this.reach(EMISSION), group, light, emitted[0], emitted[1], emitted[2], weight);
  }

  /** Adds radiance met by the present ray to its pass and to the beauty. */
  private collect(pass: i32, group: i32, light: i32, r: number, g: number, b: number, weight: number): void {
    const { path } = this;
    const { beta } = path;
    const w = weight * path.weight;
    this.collector.add(
      pass,
      group,
      light,
      r * beta[0] * w,
      g * beta[1] * w,
      b * beta[2] * w,
      path.weight,
      // The last event's light is met at once after it.
      path.density > 0 ? path.scattered - 1 : path.scattered,
      path.stage,
      path.signature,
      path,
    );
  }
}
