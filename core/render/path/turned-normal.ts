/**
 * Normals turned by maps. Normal maps: tangent space as glTF has it (+X along U, +Y along V, +Z the normal).
 * Bump maps: heights in metres, their slope measured along the surface; Blinn, "Simulation of Wrinkled
 * Surfaces", 1978. Displacement that is finer than its mesh: normals of the mesh before it moved, leaned by all slopes of the map,
 * which are those of the surface that it tells wherever it is no overhang.
 */
import { toInt, type f64, type i32 } from '../../data/numbers.ts';
import { MAP_NOISE_OBJECT, MAP_GRADIENT, MAP_WAVES } from '../../textures/compiled-map.ts';
import type { MapSampler } from '../../textures/map-sampler.ts';
import {
  MATERIAL_BUMP_DEPTH,
  MATERIAL_BUMP_MAP,
  MATERIAL_DETAIL_DEPTH,
  MATERIAL_DETAIL_MAP,
  MATERIAL_NORMAL_MAP,
  MATERIAL_NORMAL_STRENGTH,
} from '../scene/material-row.ts';
import { IS_FLAT, type CompiledScene } from '../scene/scene.ts';
import { TriangleFrame } from '../scene/triangle-frame.ts';

/** Part of the looked-at width over which a slope is taken; half a millimetre at the least. */
const STEP = 0.5;
const LEAST_STEP = 2e-4;

export class TurnedNormal {
  /** The turned normal, unit. */
  readonly normal = new Float64Array(3);
  private readonly frame: TriangleFrame;
  private readonly slope = new Float64Array(2);
  private readonly tangents = new Float64Array(6);

  constructor(
    private readonly scene: CompiledScene,
    private readonly sampler: MapSampler,
  ) {
    this.frame = new TriangleFrame(scene);
  }

  /**
   * @param o the material's row; the sampler stands at the hit
   * @param width of what is looked at, metres
   * @param side 1 when met from the front, −1 from the back: maps are drawn for the front
   */
  turn(o: i32, instance: i32, triangle: i32, width: number, side: number, nx: number, ny: number, nz: number): void {
    const { normal, sampler } = this;
    const { materials, maps } = this.scene;
    normal[0] = nx;
    normal[1] = ny;
    normal[2] = nz;
    const detailMap = toInt(materials[o + MATERIAL_DETAIL_MAP]);
    if (detailMap >= 0 && (this.scene.instanceFlags[instance] & IS_FLAT) === 0) {
      this.frame.set(instance, triangle, maps[detailMap].uvSet);
      this.frame.layOn(nx, ny, nz);
      this.tangentsAlong(nx, ny, nz);
      this.slopes(detailMap, Math.max(LEAST_STEP, width * STEP), instance);
      const depth = (-materials[o + MATERIAL_DETAIL_DEPTH] * side) / this.inObject(instance, nx, ny, nz);
      this.lean(this.slope[0] * depth, this.slope[1] * depth);
    }
    const normalMap = toInt(materials[o + MATERIAL_NORMAL_MAP]);
    if (normalMap >= 0) {
      this.frame.set(instance, triangle, maps[normalMap].uvSet);
      this.tangentsAlong(normal[0], normal[1], normal[2]);
      sampler.lookUp(normalMap);
      const strength = materials[o + MATERIAL_NORMAL_STRENGTH];
      const x = (sampler.out[0] * 2 - 1) * strength * side;
      const y = (sampler.out[1] * 2 - 1) * strength * side;
      const z = Math.max(1e-3, sampler.out[2] * 2 - 1);
      this.lean(x / z, y / z);
    }
    const bumpMap = toInt(materials[o + MATERIAL_BUMP_MAP]);
    if (bumpMap >= 0) {
      this.frame.set(instance, triangle, maps[bumpMap].uvSet);
      this.tangentsAlong(normal[0], normal[1], normal[2]);
      this.slopes(bumpMap, Math.max(LEAST_STEP, width * STEP), instance);
      const depth = -materials[o + MATERIAL_BUMP_DEPTH] * side;
      this.lean(this.slope[0] * depth, this.slope[1] * depth);
    }
  }

  /** How long a metre of the world along a direction is in the object's own space, where meshes are displaced. */
  private inObject(instance: i32, nx: f64, ny: f64, nz: f64): f64 {
    const { toObject } = this.scene;
    const m = instance * 12;
    const x = toObject[m] * nx + toObject[m + 1] * ny + toObject[m + 2] * nz;
    const y = toObject[m + 4] * nx + toObject[m + 5] * ny + toObject[m + 6] * nz;
    const z = toObject[m + 8] * nx + toObject[m + 9] * ny + toObject[m + 10] * nz;
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** Two unit tangents, the first along U, or any where UVs do not tell. */
  private tangentsAlong(nx: number, ny: number, nz: number): void {
    const { tangents: t, frame } = this;
    let x = frame.u[0];
    let y = frame.u[1];
    let z = frame.u[2];
    let d = x * nx + y * ny + z * nz;
    x -= d * nx;
    y -= d * ny;
    z -= d * nz;
    let l = Math.sqrt(x * x + y * y + z * z);
    if (!(l > 1e-12)) {
      const isAcross = Math.abs(nx) < 0.9;
      x = isAcross ? 1 : 0;
      y = isAcross ? 0 : 1;
      z = 0;
      d = x * nx + y * ny + z * nz;
      x -= d * nx;
      y -= d * ny;
      z -= d * nz;
      l = Math.sqrt(x * x + y * y + z * z);
    }
    t[0] = x / l;
    t[1] = y / l;
    t[2] = z / l;
    t[3] = ny * t[2] - nz * t[1];
    t[4] = nz * t[0] - nx * t[2];
    t[5] = nx * t[1] - ny * t[0];
    // Mirrored UVs: V grows the other way.
    if (t[3] * frame.v[0] + t[4] * frame.v[1] + t[5] * frame.v[2] < 0) for (let a = 3; a < 6; a++) t[a] = -t[a];
  }

  /** Leans the normal by `x` along the first tangent and `y` along the second. */
  private lean(x: number, y: number): void {
    const { normal: n, tangents: t } = this;
    for (let a = 0; a < 3; a++) n[a] += x * t[a] + y * t[3 + a];
    const l = 1 / Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    for (let a = 0; a < 3; a++) n[a] *= l;
  }

  /** Change of a map's number for a metre along each tangent, by central differences over `step` metres. */
  private slopes(map: i32, step: number, instance: i32): void {
    const { sampler, slope, tangents: t, frame } = this;
    const { uv, object } = sampler;
    const { kind, axis } = this.scene.maps[map];
    const inObject = kind === MAP_NOISE_OBJECT || kind === MAP_WAVES || (kind === MAP_GRADIENT && axis >= 2);
    const { toObject } = this.scene;
    const m = instance * 12;
    const uu = dot(frame.u, frame.u);
    const vv = dot(frame.v, frame.v);
    const uvDot = dot(frame.u, frame.v);
    const determinant = uu * vv - uvDot * uvDot;
    for (let k = 0; k < 2; k++) {
      const x = t[k * 3];
      const y = t[k * 3 + 1];
      const z = t[k * 3 + 2];
      // The tangent in UV: least squares of p = u·∂p/∂U + v·∂p/∂V.
      const a = frame.u[0] * x + frame.u[1] * y + frame.u[2] * z;
      const b = frame.v[0] * x + frame.v[1] * y + frame.v[2] * z;
      const du = determinant > 0 ? (a * vv - b * uvDot) / determinant : 0;
      const dv = determinant > 0 ? (b * uu - a * uvDot) / determinant : 0;
      let sum: f64 = 0;
      for (let sign = -1; sign <= 1; sign += 2) {
        const s = (sign * step) / 2;
        if (inObject)
          for (let c = 0; c < 3; c++)
            object[c] += s * (toObject[m + c * 4] * x + toObject[m + c * 4 + 1] * y + toObject[m + c * 4 + 2] * z);
        for (let c = 0; c < 4; c += 2) {
          uv[c] += s * du;
          uv[c + 1] += s * dv;
        }
        sum += sign * sampler.number(map);
        for (let c = 0; c < 4; c += 2) {
          uv[c] -= s * du;
          uv[c + 1] -= s * dv;
        }
        if (inObject)
          for (let c = 0; c < 3; c++)
            object[c] -= s * (toObject[m + c * 4] * x + toObject[m + c * 4 + 1] * y + toObject[m + c * 4 + 2] * z);
      }
      slope[k] = sum / step;
    }
  }
}

const dot = (a: Float64Array, b: Float64Array): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
