/** The surface point that a ray met: place, normals, frame, texture, and the way into `Surface`. */
import type { Intersector } from '../geometry/intersector.ts';
import type { Surface } from '../materials/surface.ts';
import { sampleTexture } from '../textures/sample.ts';
import {
  MATERIAL_BASE,
  MATERIAL_IOR,
  MATERIAL_METALLIC,
  MATERIAL_ROUGHNESS,
  MATERIAL_STRIDE,
  MATERIAL_TEXTURE,
  MATERIAL_TRANSMISSION,
  type CompiledScene,
} from './scene.ts';

// Slots of the saved state beside the vectors.
const U = 0;
const V = 1;
const LIFT = 2;
const ETA = 3;
const STATE = 4;

export class Shading {
  instance = -1;
  /** Whether the ray met the face from outside. */
  isEntering = false;
  glass = false;
  hasDiffuse = false;
  /** World position. */
  readonly point = new Float64Array(3);
  /** Geometric normal, unit, on the side the ray came from. */
  readonly normal = new Float64Array(3);

  /** Tangent, bitangent, shading normal. */
  private readonly frame = new Float64Array(9);
  private readonly viewer = new Float64Array(3);
  private readonly texel = new Float64Array(3);
  private readonly vector = new Float64Array(3);
  private readonly state = new Float64Array(STATE);
  private readonly saved = new Float64Array(3 + 3 + 9 + 3 + STATE);
  private savedInstance = -1;
  private savedEntering = false;

  constructor(private readonly scene: CompiledScene) {}

  /** How far new rays start off the surface, metres. */
  get lift(): number {
    return this.state[LIFT];
  }

  isGlass(instance: number): boolean {
    const material = this.scene.instanceMaterial[instance];
    return material >= 0 && this.scene.materials[material * MATERIAL_STRIDE + MATERIAL_TRANSMISSION] > 0;
  }

  /** Whether `ray` meets the front of a triangle. */
  entering(instance: number, triangle: number, ray: Float64Array): boolean {
    const n = this.faceNormal(instance, triangle);
    return n[0] * ray[3] + n[1] * ray[4] + n[2] * ray[5] < 0;
  }

  /** World normal of a triangle, not of unit length, on its counter-clockwise side. */
  private faceNormal(instance: number, triangle: number): Float64Array {
    const { geometry } = this.scene;
    const { positions: p, indices } = geometry.meshes[geometry.instanceMesh[instance]];
    const a = indices[triangle * 3] * 3;
    const b = indices[triangle * 3 + 1] * 3;
    const c = indices[triangle * 3 + 2] * 3;
    const ex = p[b] - p[a];
    const ey = p[b + 1] - p[a + 1];
    const ez = p[b + 2] - p[a + 2];
    const fx = p[c] - p[a];
    const fy = p[c + 1] - p[a + 1];
    const fz = p[c + 2] - p[a + 2];
    return this.normalToWorld(instance, ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx);
  }

  /** Normals transform with the transposed inverse. */
  private normalToWorld(instance: number, x: number, y: number, z: number): Float64Array {
    const m = this.scene.geometry.toMesh;
    const o = instance * 12;
    const out = this.vector;
    out[0] = m[o] * x + m[o + 4] * y + m[o + 8] * z;
    out[1] = m[o + 1] * x + m[o + 5] * y + m[o + 9] * z;
    out[2] = m[o + 2] * x + m[o + 6] * y + m[o + 10] * z;
    return out;
  }

  /** Takes the intersector's hit on `ray`. */
  hit(rays: Intersector, ray: Float64Array): void {
    const { geometry } = this.scene;
    const { instance, triangle, u, v, t } = rays;
    const { point, normal, frame, viewer, state } = this;
    this.instance = instance;
    for (let a = 0; a < 3; a++) {
      point[a] = ray[a] + t * ray[3 + a];
      viewer[a] = -ray[3 + a];
    }
    const g = this.faceNormal(instance, triangle);
    const toViewer = g[0] * viewer[0] + g[1] * viewer[1] + g[2] * viewer[2];
    this.isEntering = toViewer > 0;
    const sign = this.isEntering ? 1 : -1;
    const length = sign / Math.sqrt(g[0] * g[0] + g[1] * g[1] + g[2] * g[2]);
    normal[0] = g[0] * length;
    normal[1] = g[1] * length;
    normal[2] = g[2] * length;
    // Beyond the rounding of doubles at this place.
    state[LIFT] = 1e-9 + 4e-12 * Math.max(Math.abs(point[0]), Math.abs(point[1]), Math.abs(point[2]));

    const mesh = geometry.meshes[geometry.instanceMesh[instance]];
    const i = mesh.indices[triangle * 3];
    const j = mesh.indices[triangle * 3 + 1];
    const k = mesh.indices[triangle * 3 + 2];
    const w = 1 - u - v;
    let nx = normal[0];
    let ny = normal[1];
    let nz = normal[2];
    const { normals, uvs } = mesh;
    if (normals !== null) {
      const s = this.normalToWorld(
        instance,
        w * normals[i * 3] + u * normals[j * 3] + v * normals[k * 3],
        w * normals[i * 3 + 1] + u * normals[j * 3 + 1] + v * normals[k * 3 + 1],
        w * normals[i * 3 + 2] + u * normals[j * 3 + 2] + v * normals[k * 3 + 2],
      );
      const l = sign / Math.sqrt(s[0] * s[0] + s[1] * s[1] + s[2] * s[2]);
      // A smooth normal that turns away from the viewer cannot be shaded with; the face's own can.
      if (l * (s[0] * viewer[0] + s[1] * viewer[1] + s[2] * viewer[2]) > 1e-4) {
        nx = s[0] * l;
        ny = s[1] * l;
        nz = s[2] * l;
      }
    }
    if (uvs !== null) {
      state[U] = w * uvs[i * 2] + u * uvs[j * 2] + v * uvs[k * 2];
      state[V] = w * uvs[i * 2 + 1] + u * uvs[j * 2 + 1] + v * uvs[k * 2 + 1];
    } else state[U] = state[V] = 0;

    // Frame around the normal: Duff et al., "Building an Orthonormal Basis, Revisited", 2017.
    const s = nz >= 0 ? 1 : -1;
    const a = -1 / (s + nz);
    const b = nx * ny * a;
    frame[0] = 1 + s * nx * nx * a;
    frame[1] = s * b;
    frame[2] = -s * nx;
    frame[3] = b;
    frame[4] = s + ny * ny * a;
    frame[5] = -ny;
    frame[6] = nx;
    frame[7] = ny;
    frame[8] = nz;
  }

  /** Sets up scattering here, with `eta` the index behind the face over that in front of it (air and the material's own when opaque). */
  toSurfaceIn(surface: Surface, eta: number): void {
    const { materials, instanceMaterial, textures } = this.scene;
    const o = instanceMaterial[this.instance] * MATERIAL_STRIDE;
    const transmission = materials[o + MATERIAL_TRANSMISSION];
    this.state[ETA] = transmission > 0 ? eta : materials[o + MATERIAL_IOR];
    this.glass = transmission > 0;
    this.hasDiffuse = (1 - materials[o + MATERIAL_METALLIC]) * (1 - transmission) > 0;
    let r = materials[o + MATERIAL_BASE];
    let g = materials[o + MATERIAL_BASE + 1];
    let b = materials[o + MATERIAL_BASE + 2];
    const texture = materials[o + MATERIAL_TEXTURE];
    if (texture >= 0) {
      sampleTexture(textures[texture], this.state[U], this.state[V], this.texel);
      r *= this.texel[0];
      g *= this.texel[1];
      b *= this.texel[2];
    }
    surface.set(
      r,
      g,
      b,
      materials[o + MATERIAL_METALLIC],
      materials[o + MATERIAL_ROUGHNESS],
      this.state[ETA],
      transmission,
    );
    const local = this.toLocal(this.viewer[0], this.viewer[1], this.viewer[2]);
    surface.look(local[0], local[1], Math.max(local[2], 1e-6));
  }

  /** Sets up scattering again after `restore`. */
  toSurface(surface: Surface): void {
    this.toSurfaceIn(surface, this.state[ETA]);
  }

  /** Keeps this point while a path is followed from it. */
  save(): void {
    const { saved } = this;
    saved.set(this.point, 0);
    saved.set(this.normal, 3);
    saved.set(this.frame, 6);
    saved.set(this.viewer, 15);
    saved.set(this.state, 18);
    this.savedInstance = this.instance;
    this.savedEntering = this.isEntering;
  }

  restore(): void {
    const { saved } = this;
    for (let a = 0; a < 3; a++) {
      this.point[a] = saved[a];
      this.normal[a] = saved[3 + a];
      this.viewer[a] = saved[15 + a];
    }
    for (let a = 0; a < 9; a++) this.frame[a] = saved[6 + a];
    for (let a = 0; a < STATE; a++) this.state[a] = saved[18 + a];
    this.instance = this.savedInstance;
    this.isEntering = this.savedEntering;
  }

  /** Positive when a direction leaves on the side the ray came from. */
  side(x: number, y: number, z: number): number {
    const n = this.normal;
    return n[0] * x + n[1] * y + n[2] * z;
  }

  /** World direction in the shading frame; the result is overwritten by the next call. */
  toLocal(x: number, y: number, z: number): Float64Array {
    const { frame: f, vector } = this;
    vector[0] = f[0] * x + f[1] * y + f[2] * z;
    vector[1] = f[3] * x + f[4] * y + f[5] * z;
    vector[2] = f[6] * x + f[7] * y + f[8] * z;
    return vector;
  }

  toWorld(x: number, y: number, z: number): Float64Array {
    const { frame: f, vector } = this;
    vector[0] = f[0] * x + f[3] * y + f[6] * z;
    vector[1] = f[1] * x + f[4] * y + f[7] * z;
    vector[2] = f[2] * x + f[5] * y + f[8] * z;
    return vector;
  }
}
