/**
 * Aims at lights: a direction towards one, drawn from a density in solid angle, and that density for directions
 * that were found otherwise.
 *
 * @example
 * if (sampler.aim(light, x, y, z, u, v)) shade(sampler.direction, sampler.radiance, sampler.density);
 */
import { toInt, type f64, type i32 } from '../data/numbers.ts';
import { turn } from '../data/turns.ts';
import type { Texture } from '../data/texture.ts';
import { DISTANT_CAP, DISTANT_DIRECTION, isOnDistant } from './distant.ts';
import {
  chooseEmitter,
  EMITTER_CORNER,
  EMITTER_DENSITY,
  EMITTER_STRIDE,
  EMITTER_U,
  EMITTER_V,
  MESH_COUNT,
  MESH_FIRST,
  type Emitters,
} from './mesh-light.ts';
import type { LightTree } from './light-tree.ts';
import { hitQuad, QUAD_AREA, QUAD_NORMAL, QUAD_PLACE, QUAD_U, QUAD_V } from './quad.ts';
import { sampleSky, skyDensity, skyRadiance, type Sky } from './sky.ts';
import { capHeight, hitSphere, SPHERE_CENTRE, SPHERE_RADIUS, spotShare } from './sphere.ts';
import {
  LIGHT_DISC,
  LIGHT_DISTANT,
  LIGHT_KIND,
  LIGHT_MESH,
  LIGHT_RADIANCE,
  LIGHT_RECTANGLE,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
} from './table.ts';

/** The parts of a compiled scene that lights are made of. */
export interface LightTables {
  /** See `table.ts`. */
  lights: Float64Array;
  emitters: Emitters;
  lightTree: LightTree;
  sky: Sky;
  /** Each texture with its halved copies. */
  chains: Texture[][];
}

export class LightSampler {
  /** Unit, towards the light. */
  readonly direction = new Float64Array(3);
  /** What arrives from there; of a point-like light as if its density were 1. */
  readonly radiance = new Float64Array(3);
  /** Metres to the light; Infinity for what is far. */
  distance: f64 = 0;
  /** 1/sr; 1 for a point-like light. */
  density: f64 = 0;
  /** Row of the emitting triangle, and weights of its second and third corner; −1 for other lights. */
  emitter: i32 = -1;
  u: f64 = 0;
  v: f64 = 0;

  constructor(private readonly tables: LightTables) {}

  /** Draws a direction from (x, y, z) to a light; false when it does not shine this way. */
  aim(light: i32, x: number, y: number, z: number, u: number, v: number): boolean {
    const { lights } = this.tables;
    const o = light * LIGHT_STRIDE;
    const { radiance } = this;
    radiance[0] = lights[o + LIGHT_RADIANCE];
    radiance[1] = lights[o + LIGHT_RADIANCE + 1];
    radiance[2] = lights[o + LIGHT_RADIANCE + 2];
    this.emitter = -1;
    switch (toInt(lights[o + LIGHT_KIND])) {
      case LIGHT_SPHERE:
        return this.aimAtSphere(lights, o, x, y, z, u, v);
      case LIGHT_RECTANGLE:
      case LIGHT_DISC:
        return this.aimAtQuad(lights, o, x, y, z, u, v);
      case LIGHT_DISTANT:
        return this.aimAtDistant(lights, o, u, v);
      case LIGHT_MESH:
        return this.aimAtMesh(lights, o, x, y, z, u, v);
      default: {
        const { sky, chains } = this.tables;
        const d = this.direction;
        this.distance = Infinity;
        this.density = sampleSky(sky, u, v, d);
        if (!(this.density > 0)) return false;
        skyRadiance(sky, chains, d[0], d[1], d[2], radiance);
        return true;
      }
    }
  }

  private aimAtSphere(t: Float64Array, o: i32, x: number, y: number, z: number, u: number, v: number): boolean {
    const d = this.direction;
    const cx = t[o + SPHERE_CENTRE] - x;
    const cy = t[o + SPHERE_CENTRE + 1] - y;
    const cz = t[o + SPHERE_CENTRE + 2] - z;
    const d2 = cx * cx + cy * cy + cz * cz;
    const r = t[o + SPHERE_RADIUS];
    if (!(d2 > r * r)) return false;
    const centre = Math.sqrt(d2);
    d[0] = cx / centre;
    d[1] = cy / centre;
    d[2] = cz / centre;
    if (r === 0) {
      this.distance = centre;
      this.density = 1;
      return this.dim(spotShare(t, o, -d[0], -d[1], -d[2]) / d2);
    }
    const cap = capHeight(r, d2);
    this.coneAround(cap, u, v);
    // Where that direction meets the sphere.
    const cosine = 1 - u * cap;
    const sine2 = Math.max(0, 1 - cosine * cosine);
    this.distance = centre * cosine - Math.sqrt(Math.max(0, r * r - d2 * sine2));
    this.density = 1 / (2 * Math.PI * cap);
    return this.dim(spotShare(t, o, -d[0], -d[1], -d[2]));
  }

  private dim(share: number): boolean {
    const { radiance } = this;
    radiance[0] *= share;
    radiance[1] *= share;
    radiance[2] *= share;
    return share > 0;
  }

  /** Turns `direction` by an angle drawn evenly from the cap of height `cap` around it. */
  private coneAround(cap: number, u: number, v: number): void {
    const d = this.direction;
    const height = u * cap;
    const sine = Math.sqrt(height * (2 - height));
    const cosine = 1 - height;
    const x = d[0];
    const y = d[1];
    const z = d[2];
    turn(v, d);
    const s = z >= 0 ? 1 : -1;
    const a = -1 / (s + z);
    const b = x * y * a;
    const p = sine * d[0];
    const q = sine * d[1];
    d[0] = p * (1 + s * x * x * a) + q * b + cosine * x;
    d[1] = p * s * b + q * (s + y * y * a) + cosine * y;
    d[2] = -p * s * x - q * y + cosine * z;
  }

  private aimAtQuad(t: Float64Array, o: i32, x: number, y: number, z: number, u: number, v: number): boolean {
    const d = this.direction;
    let a = u;
    let b = v;
    if (t[o] === LIGHT_DISC) {
      const r = Math.sqrt(u);
      turn(v, d);
      a = r * d[0];
      b = r * d[1];
    }
    d[0] = t[o + QUAD_PLACE] + a * t[o + QUAD_U] + b * t[o + QUAD_V] - x;
    d[1] = t[o + QUAD_PLACE + 1] + a * t[o + QUAD_U + 1] + b * t[o + QUAD_V + 1] - y;
    d[2] = t[o + QUAD_PLACE + 2] + a * t[o + QUAD_U + 2] + b * t[o + QUAD_V + 2] - z;
    const d2 = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
    this.distance = Math.sqrt(d2);
    for (let k = 0; k < 3; k++) d[k] /= this.distance;
    const n = o + QUAD_NORMAL;
    const cosine = -(t[n] * d[0] + t[n + 1] * d[1] + t[n + 2] * d[2]);
    this.density = d2 / (t[o + QUAD_AREA] * cosine);
    return cosine > 0 && d2 > 0;
  }

  private aimAtDistant(t: Float64Array, o: i32, u: number, v: number): boolean {
    const d = this.direction;
    for (let k = 0; k < 3; k++) d[k] = t[o + DISTANT_DIRECTION + k];
    this.distance = Infinity;
    const cap = t[o + DISTANT_CAP];
    this.density = 1;
    if (cap === 0) return true;
    this.coneAround(cap, u, v);
    this.density = 1 / (2 * Math.PI * cap);
    return true;
  }

  private aimAtMesh(t: Float64Array, o: i32, x: number, y: number, z: number, u: number, v: number): boolean {
    const { rows, chance } = this.tables.emitters;
    const first = toInt(t[o + MESH_FIRST]);
    const row = chooseEmitter(chance, first, toInt(t[o + MESH_COUNT]), u);
    const below = row > first ? chance[row - 1] : 0;
    const within = Math.min(1, Math.max(0, (u - below) / (chance[row] - below)));
    const s = Math.sqrt(within);
    this.emitter = row;
    this.u = s * (1 - v);
    this.v = s * v;
    const e = row * EMITTER_STRIDE;
    const d = this.direction;
    const corner = e + EMITTER_CORNER;
    d[0] = rows[corner] + this.u * rows[e + EMITTER_U] + this.v * rows[e + EMITTER_V] - x;
    d[1] = rows[corner + 1] + this.u * rows[e + EMITTER_U + 1] + this.v * rows[e + EMITTER_V + 1] - y;
    d[2] = rows[corner + 2] + this.u * rows[e + EMITTER_U + 2] + this.v * rows[e + EMITTER_V + 2] - z;
    const d2 = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
    this.distance = Math.sqrt(d2);
    for (let k = 0; k < 3; k++) d[k] /= this.distance;
    const cosine = Math.abs(this.emitterCosine(e));
    this.density = (rows[e + EMITTER_DENSITY] * d2) / cosine;
    return cosine > 0 && d2 > 0;
  }

  /** Cosine between `direction` and the triangle's back: positive when its front shines this way. */
  emitterCosine(e: i32): number {
    const { rows } = this.tables.emitters;
    const u = e + EMITTER_U;
    const v = e + EMITTER_V;
    const nx = rows[u + 1] * rows[v + 2] - rows[u + 2] * rows[v + 1];
    const ny = rows[u + 2] * rows[v] - rows[u] * rows[v + 2];
    const nz = rows[u] * rows[v + 1] - rows[u + 1] * rows[v];
    const d = this.direction;
    return -(nx * d[0] + ny * d[1] + nz * d[2]) / Math.sqrt(nx * nx + ny * ny + nz * nz);
  }

  /** Distance at which a ray meets a light that has a body, or Infinity. */
  hitBody(light: i32, ray: Float64Array): number {
    const { lights } = this.tables;
    const o = light * LIGHT_STRIDE;
    switch (toInt(lights[o + LIGHT_KIND])) {
      case LIGHT_SPHERE:
        return hitSphere(lights, o, ray);
      case LIGHT_RECTANGLE:
      case LIGHT_DISC:
        return hitQuad(lights, o, ray);
      default:
        return Infinity;
    }
  }

  /**
   * What arrives along a ray from a light with a body that it meets at `t`, or a far one that it runs into:
   * fills `radiance` and `density`. False when nothing does.
   */
  meet(light: i32, ray: Float64Array, t: number): boolean {
    const { lights, sky, chains } = this.tables;
    const o = light * LIGHT_STRIDE;
    const { radiance } = this;
    radiance[0] = lights[o + LIGHT_RADIANCE];
    radiance[1] = lights[o + LIGHT_RADIANCE + 1];
    radiance[2] = lights[o + LIGHT_RADIANCE + 2];
    switch (toInt(lights[o + LIGHT_KIND])) {
      case LIGHT_SPHERE: {
        const x = lights[o + SPHERE_CENTRE] - ray[0];
        const y = lights[o + SPHERE_CENTRE + 1] - ray[1];
        const z = lights[o + SPHERE_CENTRE + 2] - ray[2];
        this.density = 1 / (2 * Math.PI * capHeight(lights[o + SPHERE_RADIUS], x * x + y * y + z * z));
        return this.dim(spotShare(lights, o, -ray[3], -ray[4], -ray[5]));
      }
      case LIGHT_RECTANGLE:
      case LIGHT_DISC: {
        const n = o + QUAD_NORMAL;
        const cosine = -(lights[n] * ray[3] + lights[n + 1] * ray[4] + lights[n + 2] * ray[5]);
        this.density = (t * t) / (lights[o + QUAD_AREA] * cosine);
        return cosine > 0;
      }
      case LIGHT_DISTANT: {
        const cap = lights[o + DISTANT_CAP];
        this.density = 1 / (2 * Math.PI * cap);
        return cap > 0 && isOnDistant(lights, o, ray[3], ray[4], ray[5]);
      }
      default:
        this.density = skyDensity(sky, ray[3], ray[4], ray[5]);
        skyRadiance(sky, chains, ray[3], ray[4], ray[5], radiance);
        return true;
    }
  }
}
