/** The surface point that a ray met: place, normals, frame, maps, and the way into `Surface`. */
import { toInt, type f64, type i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import { MapSampler } from '../../textures/map-sampler.ts';
import type { Surface } from '../../materials/surface.ts';
import { placeMaps } from '../scene/hit-place.ts';
import {
  MATERIAL_ABSORPTION,
  MATERIAL_ALPHA,
  MATERIAL_ALPHA_CUTOFF,
  MATERIAL_ALPHA_MAP,
  MATERIAL_BASE,
  MATERIAL_BASE_MAP,
  MATERIAL_COAT,
  MATERIAL_COAT_ROUGHNESS,
  MATERIAL_EMISSION,
  MATERIAL_EMISSION_MAP,
  MATERIAL_HAS_MAPS,
  MATERIAL_IOR,
  MATERIAL_METALLIC,
  MATERIAL_METALLIC_MAP,
  MATERIAL_ROUGHNESS,
  MATERIAL_ROUGHNESS_MAP,
  MATERIAL_SPECULAR,
  MATERIAL_STRIDE,
  MATERIAL_THICKNESS,
  MATERIAL_TRANSMISSION,
  MATERIAL_TURNS_NORMAL,
} from '../scene/material-row.ts';
import { IS_FLAT, IS_GLASS, IS_THIN, type CompiledScene } from '../scene/scene.ts';
import { TriangleFrame } from '../scene/triangle-frame.ts';
import { TurnedNormal } from './turned-normal.ts';

// Slots of the state, all of which `save` keeps.
const POINT = 0;
const NORMAL = 3;
const FRAME = 6;
const VIEWER = 15;
const ETA = 18;
const LIFT = 19;
const WHERE = 20;
const ENTERING = 21;
const UV = 22;
const COLOUR = 24;
const METAL = 27;
const ROUGH = 28;
const WIDTH = 29;
const STATE = 30;

export class Shading {
  /** Which instance was met, or −1. */
  instance: i32 = -1;
  /** Whether the ray met the face from outside. */
  isEntering = false;
  glass = false;
  hasDiffuse = false;
  /** World position, and geometric normal, unit, on the side the ray came from. */
  readonly point: Float64Array;
  readonly normal: Float64Array;
  /** The first UV set at the hit, and the base colour there. */
  readonly uv: Float64Array;
  readonly colour: Float64Array;
  /** Tangent, bitangent, shading normal. */
  readonly frame: Float64Array;
  /** Result of `emission`. */
  readonly emitted = new Float64Array(3);

  private readonly state = new Float64Array(STATE);
  private readonly saved = new Float64Array(STATE);
  private readonly viewer: Float64Array;
  private readonly vector = new Float64Array(3);
  private readonly sampler: MapSampler;
  private readonly turned: TurnedNormal;
  private readonly triangleFrame: TriangleFrame;
  private readonly liftRate: number;
  private readonly liftLeast: number;

  constructor(
    private readonly scene: CompiledScene,
    private readonly rays: Intersector,
  ) {
    const { state } = this;
    this.point = state.subarray(POINT, POINT + 3);
    this.normal = state.subarray(NORMAL, NORMAL + 3);
    this.frame = state.subarray(FRAME, FRAME + 9);
    this.viewer = state.subarray(VIEWER, VIEWER + 3);
    this.uv = state.subarray(UV, UV + 2);
    this.colour = state.subarray(COLOUR, COLOUR + 3);
    this.sampler = new MapSampler(scene.maps, scene.chains);
    this.turned = new TurnedNormal(scene, this.sampler);
    this.triangleFrame = new TriangleFrame(scene);
    // Beyond the rounding of a hit's coordinates, several times over.
    this.liftRate = scene.single ? 2 ** -21 : 4e-12;
    this.liftLeast = scene.single ? 1e-6 : 1e-9;
  }

  /** How far new rays start off the surface, metres. */
  get rayOffset(): number {
    return this.state[LIFT];
  }

  /** Shading normal, component 0–2, on the side the ray came from. */
  shadingNormal(a: i32): number {
    return this.frame[6 + a];
  }

  isGlass(instance: i32): boolean {
    return (this.scene.instanceFlags[instance] & IS_GLASS) !== 0;
  }

  /** Whether a ray along (dx, dy, dz), the last that was traced, met the front of its hit. */
  entering(dx: number, dy: number, dz: number): boolean {
    const n = this.faceNormal();
    return n[0] * dx + n[1] * dy + n[2] * dz < 0;
  }

  /** Cosine between a ray, the last that was traced, and the normal of its hit; positive when it met the front. */
  cosine(dx: number, dy: number, dz: number): number {
    const n = this.faceNormal();
    return -(n[0] * dx + n[1] * dy + n[2] * dz) / Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
  }

  /** World normal of the last hit, not of unit length, on the counter-clockwise side of its triangle. */
  private faceNormal(): Float64Array {
    const { rays, vector } = this;
    rays.faceNormal(vector);
    return this.normalToWorld(rays.instance, vector[0], vector[1], vector[2]);
  }

  /** Normals transform with the transposed inverse. */
  private normalToWorld(instance: i32, x: number, y: number, z: number): Float64Array {
    const m = this.scene.geometry.toMesh;
    const o = instance * 12;
    const out = this.vector;
    out[0] = m[o] * x + m[o + 4] * y + m[o + 8] * z;
    out[1] = m[o + 1] * x + m[o + 5] * y + m[o + 9] * z;
    out[2] = m[o + 2] * x + m[o + 6] * y + m[o + 10] * z;
    return out;
  }

  /**
   * Takes the intersector's hit on `ray`.
   * @param width of the cone around the ray there, metres; decides which mips are looked at
   * @param isFirst whether `uv` is wanted though no map needs it
   */
  hit(ray: Float64Array, width: number, isFirst: boolean): void {
    const { scene, point, normal, viewer, state, frame } = this;
    const { geometry } = scene;
    const { instance, triangle, u, v, t } = this.rays;
    this.instance = instance;
    for (let a = 0; a < 3; a++) {
      point[a] = ray[a] + t * ray[3 + a];
      viewer[a] = -ray[3 + a];
    }
    if (scene.single) for (let a = 0; a < 3; a++) point[a] = Math.fround(point[a]);
    const g = this.faceNormal();
    const toViewer = g[0] * viewer[0] + g[1] * viewer[1] + g[2] * viewer[2];
    this.isEntering = toViewer > 0;
    const sign = this.isEntering ? 1 : -1;
    const length = sign / Math.sqrt(g[0] * g[0] + g[1] * g[1] + g[2] * g[2]);
    normal[0] = g[0] * length;
    normal[1] = g[1] * length;
    normal[2] = g[2] * length;
    state[LIFT] =
      this.liftLeast + this.liftRate * Math.max(Math.max(Math.abs(point[0]), Math.abs(point[1])), Math.abs(point[2]));
    state[WIDTH] = width;

    const mesh = geometry.meshes[geometry.instanceMesh[instance]];
    let nx = normal[0];
    let ny = normal[1];
    let nz = normal[2];
    const { normals } = mesh;
    if (normals !== null && (scene.instanceFlags[instance] & IS_FLAT) === 0) {
      const i = mesh.indices[triangle * 3] * 3;
      const j = mesh.indices[triangle * 3 + 1] * 3;
      const k = mesh.indices[triangle * 3 + 2] * 3;
      const w = 1 - u - v;
      const s = this.normalToWorld(
        instance,
        w * normals[i] + u * normals[j] + v * normals[k],
        w * normals[i + 1] + u * normals[j + 1] + v * normals[k + 1],
        w * normals[i + 2] + u * normals[j + 2] + v * normals[k + 2],
      );
      const l = sign / Math.sqrt(s[0] * s[0] + s[1] * s[1] + s[2] * s[2]);
      // A smooth normal that turns away from the viewer cannot be shaded with; the face's own can.
      if (l * (s[0] * viewer[0] + s[1] * viewer[1] + s[2] * viewer[2]) > 1e-4) {
        nx = s[0] * l;
        ny = s[1] * l;
        nz = s[2] * l;
      }
    }
    const o = scene.instanceMaterial[instance] * MATERIAL_STRIDE;
    const hasMaps = scene.materials[o + MATERIAL_HAS_MAPS] > 0;
    if (hasMaps || isFirst) {
      placeMaps(scene, this.sampler, instance, triangle, u, v, point[0], point[1], point[2]);
      state[UV] = this.sampler.uv[0];
      state[UV + 1] = this.sampler.uv[1];
    }
    this.sampler.footprint = 0;
    if (hasMaps) {
      this.triangleFrame.set(instance, triangle, 0);
      this.sampler.footprint = width * this.triangleFrame.density;
      if (scene.materials[o + MATERIAL_TURNS_NORMAL] > 0) {
        const { turned } = this;
        turned.turn(o, instance, triangle, width, sign, nx, ny, nz);
        const n = turned.normal;
        if (n[0] * viewer[0] + n[1] * viewer[1] + n[2] * viewer[2] > 1e-3) {
          nx = n[0];
          ny = n[1];
          nz = n[2];
        }
      }
    }
    this.readMaterial(o);

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

  /** Colour, metal and roughness here, with their maps. */
  private readMaterial(o: i32): void {
    const { scene, state, sampler } = this;
    const { materials } = scene;
    state[COLOUR] = materials[o + MATERIAL_BASE];
    state[COLOUR + 1] = materials[o + MATERIAL_BASE + 1];
    state[COLOUR + 2] = materials[o + MATERIAL_BASE + 2];
    state[METAL] = materials[o + MATERIAL_METALLIC];
    state[ROUGH] = materials[o + MATERIAL_ROUGHNESS];
    if (materials[o + MATERIAL_HAS_MAPS] === 0) return;
    const base = toInt(materials[o + MATERIAL_BASE_MAP]);
    if (base >= 0) {
      sampler.lookUp(base);
      for (let a = 0; a < 3; a++) state[COLOUR + a] *= Math.min(1, Math.max(0, sampler.out[a]));
    }
    const metal = toInt(materials[o + MATERIAL_METALLIC_MAP]);
    if (metal >= 0) state[METAL] *= Math.min(1, Math.max(0, sampler.number(metal)));
    const rough = toInt(materials[o + MATERIAL_ROUGHNESS_MAP]);
    if (rough >= 0) state[ROUGH] *= Math.min(1, Math.max(0, sampler.number(rough)));
  }

  /**
   * Sets up scattering here.
   * @param eta the index behind the face over that in front of it, unused when opaque
   * @param floor least roughness of what is no glass: through glass no shadow ray gets, however rough it is
   */
  toSurfaceIn(surface: Surface, eta: number, floor: f64 = 0): void {
    const { scene, state } = this;
    const { materials } = scene;
    const flags = scene.instanceFlags[this.instance];
    const o = scene.instanceMaterial[this.instance] * MATERIAL_STRIDE;
    const transmission = materials[o + MATERIAL_TRANSMISSION];
    const thin = (flags & IS_THIN) !== 0;
    this.glass = transmission > 0;
    state[ETA] = this.glass && !thin ? eta : materials[o + MATERIAL_IOR];
    const metallic = state[METAL];
    this.hasDiffuse = (1 - metallic) * (1 - transmission) > 0;
    let r = state[COLOUR];
    let g = state[COLOUR + 1];
    let b = state[COLOUR + 2];
    const local = this.toLocal(this.viewer[0], this.viewer[1], this.viewer[2]);
    const cosine = Math.max(local[2], 1e-6);
    const x = local[0];
    const y = local[1];
    if (thin) {
      // Light crosses the wall along its refracted way.
      const inside = 1 / Math.sqrt(1 - (1 - cosine * cosine) / (state[ETA] * state[ETA]));
      const way = materials[o + MATERIAL_THICKNESS] * inside;
      r *= Math.exp(-materials[o + MATERIAL_ABSORPTION] * way);
      g *= Math.exp(-materials[o + MATERIAL_ABSORPTION + 1] * way);
      b *= Math.exp(-materials[o + MATERIAL_ABSORPTION + 2] * way);
    }
    const rough = this.glass ? state[ROUGH] : Math.max(state[ROUGH], floor);
    surface.set(r, g, b, metallic, rough, state[ETA], transmission, materials[o + MATERIAL_SPECULAR], thin);
    const coat = materials[o + MATERIAL_COAT];
    if (coat > 0) surface.setCoat(coat, Math.max(materials[o + MATERIAL_COAT_ROUGHNESS], floor));
    surface.setOutgoing(x, y, cosine);
  }

  /** Sets up scattering again after `restore`. */
  toSurface(surface: Surface): void {
    this.toSurfaceIn(surface, this.state[ETA]);
  }

  /**
   * Share of a surface that is there where a ray met it, 0–1: alpha with its map, or 0 and 1 for a mask.
   * @param x y z the hit, world
   */
  alpha(instance: i32, triangle: i32, u: number, v: number, x: number, y: number, z: number): number {
    const { scene, sampler } = this;
    const o = scene.instanceMaterial[instance] * MATERIAL_STRIDE;
    let alpha = scene.materials[o + MATERIAL_ALPHA];
    const map = toInt(scene.materials[o + MATERIAL_ALPHA_MAP]);
    if (map >= 0) {
      placeMaps(scene, sampler, instance, triangle, u, v, x, y, z);
      sampler.footprint = 0;
      alpha *= sampler.number(map);
    }
    const cutoff = scene.materials[o + MATERIAL_ALPHA_CUTOFF];
    if (cutoff >= 0) return alpha < cutoff ? 0 : 1;
    return Math.min(1, Math.max(0, alpha));
  }

  /** Leaves the radiance that a surface emits at a hit in `emitted`. */
  emission(instance: i32, triangle: i32, u: number, v: number, x: number, y: number, z: number): void {
    const { scene, sampler, emitted } = this;
    const o = scene.instanceMaterial[instance] * MATERIAL_STRIDE;
    const { materials } = scene;
    for (let a = 0; a < 3; a++) emitted[a] = materials[o + MATERIAL_EMISSION + a];
    const map = toInt(materials[o + MATERIAL_EMISSION_MAP]);
    if (map < 0) return;
    placeMaps(scene, sampler, instance, triangle, u, v, x, y, z);
    sampler.footprint = 0;
    sampler.lookUp(map);
    for (let a = 0; a < 3; a++) emitted[a] *= Math.max(0, sampler.out[a]);
  }

  /** Keeps this point while a path is followed from it. */
  save(): void {
    this.state[WHERE] = this.instance;
    this.state[ENTERING] = this.isEntering ? 1 : 0;
    this.saved.set(this.state);
  }

  restore(): void {
    const { saved, state } = this;
    for (let k = 0; k < STATE; k++) state[k] = saved[k];
    this.instance = toInt(state[WHERE]);
    this.isEntering = state[ENTERING] > 0;
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
