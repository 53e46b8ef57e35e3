/** What the first hit of a camera ray tells: the data passes, and ambient occlusion. */
import type { f64, i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { CAMERA_RAY } from '../../geometry/ray-kinds.ts';
import type { CameraRay } from './camera-ray.ts';
import { OCCLUSION, type Collector } from './collector.ts';
import { Occlusion } from './occlusion.ts';
import {
  MEAN_ALBEDO,
  MEAN_COVERAGE,
  MEAN_DEPTH,
  MEAN_MATERIAL,
  MEAN_MOTION,
  MEAN_NORMAL,
  MEAN_OBJECT,
  MEAN_POSITION,
  MEAN_RAYS,
  MEAN_UV,
} from '../film/passes.ts';
import type { PathContext } from './path-context.ts';
import type { PathState } from './path-state.ts';
import type { CompiledScene } from '../scene/scene.ts';
import type { Shading } from './shading.ts';

/**
 * Rays of a sample whose openness is raised to a power, at least. A power of what is 0 or 1 is what it was; of the mean of 16 it is off
 * by a sixty-fourth at most for a power of 2 (the variance of the binomial). Unbiased sums over subsets of the rays were tried on
 * paper: at few rays they are negative in the dark, for which no light stands.
 */
const OF_POWER: i32 = 16;

export class FirstHit {
  /** Object and material + 1 of the last sample, 0 for none. */
  readonly ids = new Float64Array(2);

  private readonly sums: Float64Array;
  private readonly occlusion: Occlusion;
  private readonly occlusionSlot: i32;
  private readonly occlusionCount: i32;
  private readonly seeThrough: boolean;
  private readonly strength: number;
  private readonly contrast: number;
  private readonly left: Float64Array;
  /** Openness of the first hit: 1 open, 0 shut. */
  private open: f64 = 1;
  private readonly rays: Intersector;
  private readonly places = new Float64Array(4);
  private object: i32 = 0;
  private material: i32 = 0;

  private readonly scene: CompiledScene;
  private readonly shading: Shading;
  private readonly collector: Collector;

  constructor(
    { scene, settings, random, rays, shading, collector }: PathContext,
    private readonly camera: CameraRay,
  ) {
    this.scene = scene;
    this.shading = shading;
    this.rays = rays;
    const { seeThrough, strength, contrast, left } = settings.occlusion;
    this.seeThrough = seeThrough;
    this.strength = strength;
    this.contrast = contrast;
    this.left = left;
    this.collector = collector;
    this.sums = collector.sums;
    this.occlusion = new Occlusion(scene, settings, random, rays, shading);
    this.occlusionSlot = settings.sums.occlusion;
    const { occlusion } = settings.extraSamples;
    this.occlusionCount = strength > 0 && contrast !== 1 && occlusion < OF_POWER ? OF_POWER : occlusion;
  }

  expect(object: i32, material: i32): void {
    this.object = object;
    this.material = material;
  }

  clear(): void {
    this.ids.fill(0);
  }

  /** Adds the data of the surface in `shading`, the first on the path. */
  note(path: PathState): void {
    const { sums, shading, scene, ids } = this;
    const { point, uv, colour, instance } = shading;
    sums[MEAN_COVERAGE]++;
    sums[MEAN_DEPTH] += path.length;
    for (let a = 0; a < 3; a++) {
      sums[MEAN_POSITION + a] += point[a];
      sums[MEAN_NORMAL + a] += shading.shadingNormal(a);
      sums[MEAN_ALBEDO + a] += colour[a];
    }
    sums[MEAN_UV] += uv[0];
    sums[MEAN_UV + 1] += uv[1];
    ids[0] = scene.instanceObject[instance] + 1;
    ids[1] = scene.materialNumber[scene.instanceMaterial[instance]] + 1;
    if (ids[0] === this.object) sums[MEAN_OBJECT]++;
    if (ids[1] === this.material) sums[MEAN_MATERIAL]++;
    if (scene.nextToWorld !== null) this.noteMotion(scene.nextToWorld);
    if (this.occlusionSlot < 0 && this.strength === 0) return;
    this.open = this.openness(path);
    if (this.occlusionSlot >= 0) sums[this.occlusionSlot] += this.open;
  }

  /** Takes from a path's weight what occlusion takes from its light. Called after `note`. */
  dim(beta: Float64Array): void {
    if (this.strength === 0) return;
    const open: f64 = this.open > 0 ? Math.exp(this.contrast * Math.log(this.open)) : 0;
    const shut = this.strength * (1 - open);
    for (let a = 0; a < 3; a++) beta[a] *= 1 - shut * (1 - this.left[a]);
  }

  /** Mean of the sheet's occlusion rays: 1 open, 0 shut. Where glass is see-through, that of what stands behind it. */
  private openness(path: PathState): number {
    const behind = this.seeThrough && this.lookThrough(path);
    let open: f64 = 0;
    this.collector.rays[OCCLUSION] += this.occlusionCount;
    this.sums[MEAN_RAYS] += this.occlusionCount;
    for (let k = 0; k < this.occlusionCount; k++) open += this.occlusion.ray(k);
    if (behind) this.shading.restore();
    return open / this.occlusionCount;
  }

  /** Puts what stands straight behind glass into `shading`, what was there being saved; false where that is none, or nothing is behind it. */
  private lookThrough(path: PathState): boolean {
    const { shading, rays } = this;
    if (!shading.isGlass(shading.instance)) return false;
    const { ray } = path;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], path.far, CAMERA_RAY);
    while (hit && shading.isGlass(rays.instance)) hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    if (!hit) return false;
    shading.save();
    shading.hit(ray, 0, false);
    return true;
  }

  /** Pixels that the point moves by within a frame. */
  private noteMotion(next: Float64Array): void {
    const { shading, scene, camera, places, sums } = this;
    const { point, instance } = shading;
    const { toMesh } = scene.geometry;
    const m = instance * 12;
    const x = toMesh[m] * point[0] + toMesh[m + 1] * point[1] + toMesh[m + 2] * point[2] + toMesh[m + 3];
    const y = toMesh[m + 4] * point[0] + toMesh[m + 5] * point[1] + toMesh[m + 6] * point[2] + toMesh[m + 7];
    const z = toMesh[m + 8] * point[0] + toMesh[m + 9] * point[1] + toMesh[m + 10] * point[2] + toMesh[m + 11];
    camera.place(point[0], point[1], point[2], places, 0);
    camera.place(
      next[m] * x + next[m + 1] * y + next[m + 2] * z + next[m + 3],
      next[m + 4] * x + next[m + 5] * y + next[m + 6] * z + next[m + 7],
      next[m + 8] * x + next[m + 9] * y + next[m + 10] * z + next[m + 11],
      places,
      2,
    );
    sums[MEAN_MOTION] += places[2] - places[0];
    sums[MEAN_MOTION + 1] += places[3] - places[1];
  }
}
