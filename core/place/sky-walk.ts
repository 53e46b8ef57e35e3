/**
 * From a pixel to the environment that it shows: straight, through glass, or by way of mirrors.
 *
 * @example
 * const walk = new SkyWalk(scene, document, settingsOf(sheet));
 * walk.skyAt(240, 20); // { direction: [0.1, 0.6, -0.8], by: [3] }: seen in object 3
 */
import type { Triple } from '../data/placement.ts';
import type { ShotDocument } from '../document/schema.ts';
import { BvhIntersector, type Intersector } from '../geometry/intersector.ts';
import { CAMERA_RAY, SPECULAR_RAY } from '../geometry/ray-kinds.ts';
import { Shading } from '../render/path/shading.ts';
import { MATERIAL_METALLIC, MATERIAL_ROUGHNESS, MATERIAL_STRIDE } from '../render/scene/material-row.ts';
import { CAMERA_FAR, CAMERA_NEAR, type CompiledScene, type RenderSettings } from '../render/scene/scene.ts';
import { middleRay } from '../render/scene/middle-ray.ts';

export interface SkySeen {
  /** Unit, in the world. */
  direction: Triple;
  /** Numbers of the glass and mirrors on the way; none: it is seen straight. */
  by: number[];
}

/** Metal and roughness from which on, and up to which, a surface shows the sky with edges. */
const METAL = 0.5;
const SHARP = 0.15;
const MOST = 8;

export class SkyWalk {
  private readonly rays: Intersector;
  private readonly shading: Shading;
  private readonly ray = new Float64Array(6);
  /** The environment is behind everything; a background of its own hides it from the camera. */
  private readonly isShown: { straight: boolean; mirrored: boolean; through: boolean };

  constructor(
    private readonly scene: CompiledScene,
    { background, environment }: ShotDocument,
    private readonly settings: RenderSettings,
  ) {
    this.rays = scene.kernel?.rays ?? new BvhIntersector(scene.geometry);
    this.shading = new Shading(scene, this.rays);
    const { camera, specular, transmission } = environment.visibility;
    this.isShown = { straight: camera && background === null, mirrored: specular, through: transmission };
  }

  /** @returns null where a pixel's middle ends on a surface, or the environment is not shown that way */
  skyAt(x: number, y: number): SkySeen | null {
    const { scene, rays, shading, ray, isShown } = this;
    const { camera } = scene;
    const length = middleRay(camera, this.settings, x, y, camera[CAMERA_NEAR], ray);
    rays.slice = scene.slices >> 1;
    const by: number[] = [];
    let far = (camera[CAMERA_FAR] - camera[CAMERA_NEAR]) * length;
    let [hasMirrored, isThrough] = [false, false];
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    for (let n = 0; hit; n++) {
      if (n === MOST) return null;
      const object = scene.instanceObject[rays.instance];
      const o = scene.instanceMaterial[rays.instance] * MATERIAL_STRIDE;
      if (!by.includes(object)) by.push(object);
      if (shading.isGlass(rays.instance)) {
        isThrough = true;
        hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
        continue;
      }
      if (scene.materials[o + MATERIAL_METALLIC] < METAL || scene.materials[o + MATERIAL_ROUGHNESS] > SHARP)
        return null;
      hasMirrored = true;
      shading.hit(ray, 0, false);
      const d = [ray[3], ray[4], ray[5]];
      const n2 = 2 * (d[0] * shading.shadingNormal(0) + d[1] * shading.shadingNormal(1) + d[2] * shading.shadingNormal(2)); // prettier-ignore
      for (let a = 0; a < 3; a++) {
        ray[a] = shading.point[a] + shading.normal[a] * shading.rayOffset;
        ray[3 + a] = d[a] - n2 * shading.shadingNormal(a);
      }
      far = Infinity;
      hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, SPECULAR_RAY);
    }
    if (hasMirrored ? !isShown.mirrored : isThrough ? !isShown.through : !isShown.straight) return null;
    return { direction: [ray[3], ray[4], ray[5]], by };
  }
}
