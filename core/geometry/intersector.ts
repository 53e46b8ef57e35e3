/**
 * The one interface behind which rays meet geometry.
 *
 * A query is a ray, a visibility mask and a place to resume after: it finds the first hit that
 * comes after (t, instance, triangle) in that order, so that a caller can look at every face of a
 * pile in turn, coincident ones included. Nothing calls back into the caller.
 *
 * @example
 * const rays = new BvhIntersector(geometry);
 * if (rays.closest(0, 0, 5, 0, 0, -1, Infinity, ALL_RAYS)) console.log(rays.t, rays.instance);
 * while (rays.closestAfter(rays.t, rays.instance, rays.triangle)) console.log('and', rays.t);
 */
import type { CompiledMesh, SceneGeometry } from './scene-geometry.ts';

export const ALL_RAYS = 0xffffffff;

export interface Intersector {
  /** The hit of the last query that found one: distance in lengths of the direction. */
  readonly t: number;
  readonly instance: number;
  /** Number of the triangle in its compiled mesh. */
  readonly triangle: number;
  /** Weights of the second and third corner. */
  readonly u: number;
  readonly v: number;
  /** Slice of time of the rays to come; instances of other slices are not there for them. */
  slice: number;
  /** Nearest hit with 0 < t < tMax. The direction need not have unit length. */
  closest(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number): boolean;
  /** Nearest hit of the same ray after the given one. */
  closestAfter(t: number, instance: number, triangle: number): boolean;
  /** Writes the normal of the last hit's triangle in its mesh to `out[0..2]`, not of unit length. */
  faceNormal(out: Float64Array): void;
  /** Whether anything stands between 0 and tMax. */
  occluded(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number): boolean;
}

const STACK = 128;
/** Resuming after this instance at distance 0 leaves out hits at 0 itself. */
export const NOTHING_BEFORE = 0x7fffffff;
/** Widening of a far slab distance that keeps rounding from losing a touched box. Source: Ize, "Robust BVH Ray Traversal", 2013. */
const WIDEN = 1 + 4 * 2 ** -53;
/** A box this little behind the nearest hit is still looked into: rounding may have put a nearer triangle there. */
const LOOSE = 1 + 2 ** -19;

/**
 * Two-level binary tree walked in doubles, the child on the ray's side of the split first; triangle test: Woop, Benthin & Wald, "Watertight Ray/Triangle Intersection", 2013.
 * The box test stands inline in both walks: as a function it is too large to be inlined, and boxing its
 * numbers then costs more than the test (measured: 90 ns against 10 ns a node).
 */
export class BvhIntersector implements Intersector {
  t = 0;
  instance = 0;
  triangle = 0;
  u = 0;
  v = 0;
  slice = 0;

  private readonly topStack = new Int32Array(STACK);
  private readonly stack = new Int32Array(STACK);
  /** Origin, direction, greatest distance, in the world; kept for `closestAfter`. */
  private readonly ray = new Float64Array(7);
  /** Origin and direction in the space of the mesh being walked. */
  private readonly local = new Float64Array(6);
  private mask = ALL_RAYS;
  private afterT = 0;
  private afterInstance = NOTHING_BEFORE;
  private afterTriangle = 0;

  constructor(private readonly scene: SceneGeometry) {}

  closest(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number): boolean {
    this.take(ox, oy, oz, dx, dy, dz, tMax, mask);
    return this.walk(false);
  }

  closestAfter(t: number, instance: number, triangle: number): boolean {
    this.afterT = t;
    this.afterInstance = instance;
    this.afterTriangle = triangle;
    return this.walk(false);
  }

  faceNormal(out: Float64Array): void {
    const { meshes, instanceMesh } = this.scene;
    const { positions: p, indices } = meshes[instanceMesh[this.instance]];
    const a = indices[this.triangle * 3] * 3;
    const b = indices[this.triangle * 3 + 1] * 3;
    const c = indices[this.triangle * 3 + 2] * 3;
    const ex = p[b] - p[a];
    const ey = p[b + 1] - p[a + 1];
    const ez = p[b + 2] - p[a + 2];
    const fx = p[c] - p[a];
    const fy = p[c + 1] - p[a + 1];
    const fz = p[c + 2] - p[a + 2];
    out[0] = ey * fz - ez * fy;
    out[1] = ez * fx - ex * fz;
    out[2] = ex * fy - ey * fx;
  }

  occluded(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    tMax: number,
    mask: number,
  ): boolean {
    this.take(ox, oy, oz, dx, dy, dz, tMax, mask);
    return this.walk(true);
  }

  private take(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number) {
    const r = this.ray;
    r[0] = ox;
    r[1] = oy;
    r[2] = oz;
    r[3] = dx;
    r[4] = dy;
    r[5] = dz;
    r[6] = tMax;
    this.mask = mask;
    this.afterT = 0;
    this.afterInstance = NOTHING_BEFORE;
    this.afterTriangle = 0;
  }

  private walk(any: boolean): boolean {
    const { topBounds, topLinks, topOrder, instanceMesh, instanceMask, instanceSlice, toMesh, meshes } = this.scene;
    const { ray, local, mask, topStack, afterT } = this;
    this.t = ray[6];
    this.instance = -1;
    if (topLinks.length === 0) return false;
    const ox = ray[0];
    const oy = ray[1];
    const oz = ray[2];
    const dx = ray[3];
    const dy = ray[4];
    const dz = ray[5];
    const ix = 1 / dx;
    const iy = 1 / dy;
    const iz = 1 / dz;
    const nearX = ix >= 0 ? 0 : 3;
    const nearY = iy >= 0 ? 1 : 4;
    const nearZ = iz >= 0 ? 2 : 5;
    let size = 0;
    let node = 0;
    for (;;) {
      const b = node * 6;
      let t0 = afterT * (2 - LOOSE);
      let t1 = this.t * LOOSE;
      let a = (topBounds[b + nearX] - ox) * ix;
      let c = (topBounds[b + 3 - nearX] - ox) * ix * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      a = (topBounds[b + nearY] - oy) * iy;
      c = (topBounds[b + 5 - nearY] - oy) * iy * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      a = (topBounds[b + nearZ] - oz) * iz;
      c = (topBounds[b + 7 - nearZ] - oz) * iz * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      if (t0 <= t1) {
        const items = topLinks[node * 2 + 1];
        if (items <= 0) {
          const right = topLinks[node * 2];
          const reversed = items === 0 ? ix < 0 : items === -1 ? iy < 0 : iz < 0;
          topStack[size++] = reversed ? node + 1 : right;
          node = reversed ? right : node + 1;
          continue;
        }
        const first = topLinks[node * 2];
        for (let k = first; k < first + items; k++) {
          const i = topOrder[k];
          if ((instanceMask[i] & mask) === 0) continue;
          if (instanceSlice[i] >= 0 && instanceSlice[i] !== this.slice) continue;
          const m = i * 12;
          local[0] = toMesh[m] * ox + toMesh[m + 1] * oy + toMesh[m + 2] * oz + toMesh[m + 3];
          local[1] = toMesh[m + 4] * ox + toMesh[m + 5] * oy + toMesh[m + 6] * oz + toMesh[m + 7];
          local[2] = toMesh[m + 8] * ox + toMesh[m + 9] * oy + toMesh[m + 10] * oz + toMesh[m + 11];
          local[3] = toMesh[m] * dx + toMesh[m + 1] * dy + toMesh[m + 2] * dz;
          local[4] = toMesh[m + 4] * dx + toMesh[m + 5] * dy + toMesh[m + 6] * dz;
          local[5] = toMesh[m + 8] * dx + toMesh[m + 9] * dy + toMesh[m + 10] * dz;
          this.walkMesh(meshes[instanceMesh[i]], i, any);
          if (any && this.instance >= 0) return true;
        }
      }
      if (size === 0) return this.instance >= 0;
      node = topStack[--size];
    }
  }

  /** Leaves the nearest hit of the local ray with one mesh in the result, if it is nearer than what stands there. */
  private walkMesh(mesh: CompiledMesh, instance: number, any: boolean): void {
    const { bounds, links, indices, positions } = mesh;
    const { stack, local, afterT, afterInstance, afterTriangle } = this;
    const ox = local[0];
    const oy = local[1];
    const oz = local[2];
    const dx = local[3];
    const dy = local[4];
    const dz = local[5];
    const ix = 1 / dx;
    const iy = 1 / dy;
    const iz = 1 / dz;
    const nearX = ix >= 0 ? 0 : 3;
    const nearY = iy >= 0 ? 1 : 4;
    const nearZ = iz >= 0 ? 2 : 5;

    // The ray's dominant axis becomes the third; the other two keep the handedness.
    const ax = Math.abs(dx);
    const ay = Math.abs(dy);
    const az = Math.abs(dz);
    const kz = ax > ay ? (ax > az ? 0 : 2) : ay > az ? 1 : 2;
    let kx = kz === 2 ? 0 : kz + 1;
    let ky = kx === 2 ? 0 : kx + 1;
    if (local[3 + kz] < 0) {
      const swap = kx;
      kx = ky;
      ky = swap;
    }
    const sz = 1 / local[3 + kz];
    const sx = local[3 + kx] * sz;
    const sy = local[3 + ky] * sz;
    const okx = local[kx];
    const oky = local[ky];
    const okz = local[kz];

    let best = this.t;
    let bestInstance = this.instance;
    let bestTriangle = this.triangle;
    let bestU = 0;
    let bestV = 0;
    let found = false;
    let size = 0;
    let node = 0;
    for (;;) {
      const b = node * 6;
      let t0 = afterT * (2 - LOOSE);
      let t1 = best * LOOSE;
      let a = (bounds[b + nearX] - ox) * ix;
      let c = (bounds[b + 3 - nearX] - ox) * ix * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      a = (bounds[b + nearY] - oy) * iy;
      c = (bounds[b + 5 - nearY] - oy) * iy * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      a = (bounds[b + nearZ] - oz) * iz;
      c = (bounds[b + 7 - nearZ] - oz) * iz * WIDEN;
      if (a > t0) t0 = a;
      if (c < t1) t1 = c;
      if (t0 <= t1) {
        const count = links[node * 2 + 1];
        if (count <= 0) {
          const right = links[node * 2];
          const reversed = count === 0 ? dx < 0 : count === -1 ? dy < 0 : dz < 0;
          stack[size++] = reversed ? node + 1 : right;
          node = reversed ? right : node + 1;
          continue;
        }
        const first = links[node * 2];
        for (let triangle = first; triangle < first + count; triangle++) {
          const p = indices[triangle * 3] * 3;
          const q = indices[triangle * 3 + 1] * 3;
          const r = indices[triangle * 3 + 2] * 3;
          const pz = positions[p + kz] - okz;
          const qz = positions[q + kz] - okz;
          const rz = positions[r + kz] - okz;
          const px = positions[p + kx] - okx - sx * pz;
          const py = positions[p + ky] - oky - sy * pz;
          const qx = positions[q + kx] - okx - sx * qz;
          const qy = positions[q + ky] - oky - sy * qz;
          const rx = positions[r + kx] - okx - sx * rz;
          const ry = positions[r + ky] - oky - sy * rz;
          const u = rx * qy - ry * qx;
          const v = px * ry - py * rx;
          const w = qx * py - qy * px;
          if ((u < 0 || v < 0 || w < 0) && (u > 0 || v > 0 || w > 0)) continue;
          const determinant = u + v + w;
          if (determinant === 0) continue;
          const t = (sz * (u * pz + v * qz + w * rz)) / determinant;
          if (!(t <= best) || !(t >= afterT)) continue;
          if (t === afterT && (instance < afterInstance || (instance === afterInstance && triangle <= afterTriangle)))
            continue;
          // At equal distance the lowest id wins, whatever the order of the walk.
          if (
            t === best &&
            (bestInstance < 0 || instance > bestInstance || (instance === bestInstance && triangle >= bestTriangle))
          )
            continue;
          found = true;
          best = t;
          bestInstance = instance;
          bestTriangle = triangle;
          bestU = v / determinant;
          bestV = w / determinant;
          if (any) {
            size = 0;
            break;
          }
        }
      }
      if (size === 0) break;
      node = stack[--size];
    }
    if (!found) return;
    this.t = best;
    this.instance = bestInstance;
    this.triangle = bestTriangle;
    this.u = bestU;
    this.v = bestV;
  }
}
