/**
 * What the eye meets first at places of the picture finer than a pixel: object, material, depth, and normals. The eye is a
 * point and the shutter stands at its middle, so that lines are sharp where the picture is blurred.
 *
 * @example
 * const seen = new FirstSurfaces(scene, settings, 2);
 * seen.look(239.75, 135, 0);
 * seen.object[0];   // number of the object, −1 where nothing is
 */
import { BvhIntersector, type Intersector } from '../../geometry/intersector.ts';
import { CAMERA_RAY } from '../../geometry/ray-kinds.ts';
import { Shading } from '../path/shading.ts';
import { middleRay } from '../scene/middle-ray.ts';
import {
  CAMERA_FAR,
  CAMERA_NEAR,
  HAS_ALPHA,
  IS_BACK_ONLY,
  IS_CUT_OUT,
  IS_FLAT,
  IS_FRONT_ONLY,
  IS_SHADOW_ONLY,
  type CompiledScene,
} from '../scene/scene.ts';

export class FirstSurfaces {
  /** Numbers of object and material; −1 where the eye meets nothing. */
  readonly object: Int32Array;
  readonly material: Int32Array;
  /** Metres from the eye. */
  readonly depth: Float64Array;
  /** Three numbers each: the point, world, and unit normals of the face and of the mesh (no map's), towards the eye. */
  readonly point: Float64Array;
  readonly face: Float32Array;
  readonly normal: Float32Array;

  private readonly rays: Intersector;
  private readonly shading: Shading;
  private readonly ray = new Float64Array(6);
  private readonly own = new Float64Array(3);

  /** @param count slots that `look` can fill */
  constructor(
    private readonly scene: CompiledScene,
    private readonly frame: { width: number; height: number; rayDistance: number | null },
    count: number,
  ) {
    this.rays = scene.kernel?.rays ?? new BvhIntersector(scene.geometry);
    this.shading = new Shading(scene, this.rays);
    this.object = new Int32Array(count);
    this.material = new Int32Array(count);
    this.depth = new Float64Array(count);
    this.point = new Float64Array(count * 3);
    this.face = new Float32Array(count * 3);
    this.normal = new Float32Array(count * 3);
  }

  /** Fills slot `at` with what is met at pixel (x, y) of the full frame, whose middle is a whole number. */
  look(x: number, y: number, at: number): void {
    const { scene, frame, rays, ray, point, face } = this;
    const near = scene.camera[CAMERA_NEAR];
    const length = middleRay(scene.camera, frame, x, y, near, ray);
    const far = Math.min((scene.camera[CAMERA_FAR] - near) * length, frame.rayDistance ?? Infinity);
    rays.slice = scene.slices >> 1;
    let hit = rays.closest(ray[0], ray[1], ray[2], ray[3], ray[4], ray[5], far, CAMERA_RAY);
    while (hit && this.isPassed()) hit = rays.closestAfter(rays.t, rays.instance, rays.triangle);
    if (!hit || (scene.instanceFlags[rays.instance] & IS_CUT_OUT) !== 0) {
      this.object[at] = this.material[at] = -1;
      this.depth[at] = Infinity;
      return;
    }
    const { instance } = rays;
    this.object[at] = scene.instanceObject[instance];
    this.material[at] = scene.materialNumber[scene.instanceMaterial[instance]];
    this.depth[at] = rays.t + near * length;
    for (let a = 0; a < 3; a++) point[at * 3 + a] = ray[a] + rays.t * ray[3 + a];
    rays.faceNormal(this.own);
    this.keepNormal(face, at);
    if (this.meshNormal()) this.keepNormal(this.normal, at);
    else for (let a = 0; a < 3; a++) this.normal[at * 3 + a] = face[at * 3 + a];
  }

  /** Whether the eye passes the present hit: a side that is not there, what only takes shadows, what is more hole than surface. */
  private isPassed(): boolean {
    const { scene, rays, shading, ray } = this;
    const flags = scene.instanceFlags[rays.instance];
    if ((flags & IS_SHADOW_ONLY) !== 0) return true;
    if ((flags & (IS_FRONT_ONLY | IS_BACK_ONLY)) !== 0)
      if (shading.entering(ray[3], ray[4], ray[5]) === ((flags & IS_BACK_ONLY) !== 0)) return true;
    if ((flags & HAS_ALPHA) === 0) return false;
    const { instance, triangle, u, v, t } = rays;
    const x = ray[0] + t * ray[3];
    const y = ray[1] + t * ray[4];
    const z = ray[2] + t * ray[5];
    return shading.alpha(instance, triangle, u, v, x, y, z) < 0.5;
  }

  /** Puts the mesh's own normal at the hit into `own`, in the space of the mesh; false where it has none. */
  private meshNormal(): boolean {
    const { scene, rays, own } = this;
    const mesh = scene.geometry.meshes[scene.geometry.instanceMesh[rays.instance]];
    const { normals, indices } = mesh;
    if (normals === null || (scene.instanceFlags[rays.instance] & IS_FLAT) !== 0) return false;
    const { triangle, u, v } = rays;
    const i = indices[triangle * 3] * 3;
    const j = indices[triangle * 3 + 1] * 3;
    const k = indices[triangle * 3 + 2] * 3;
    for (let a = 0; a < 3; a++) own[a] = (1 - u - v) * normals[i + a] + u * normals[j + a] + v * normals[k + a];
    return true;
  }

  /** Writes `own` to slot `at`: in the world (normals transform with the transposed inverse), unit, towards the eye. */
  private keepNormal(out: Float32Array, at: number): void {
    const { rays, ray, own } = this;
    const m = this.scene.geometry.toMesh;
    const o = rays.instance * 12;
    const x = m[o] * own[0] + m[o + 4] * own[1] + m[o + 8] * own[2];
    const y = m[o + 1] * own[0] + m[o + 5] * own[1] + m[o + 9] * own[2];
    const z = m[o + 2] * own[0] + m[o + 6] * own[1] + m[o + 10] * own[2];
    const sign = x * ray[3] + y * ray[4] + z * ray[5] > 0 ? -1 : 1;
    const l = sign / Math.sqrt(x * x + y * y + z * z);
    out[at * 3] = x * l;
    out[at * 3 + 1] = y * l;
    out[at * 3 + 2] = z * l;
  }
}
