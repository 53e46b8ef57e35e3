/**
 * One depth map of a light. A texel is traced when it is first looked up: of a map of 16,384² the few that a picture reads.
 * Depths are kept as metres; how they are stored is a matter of who reads them.
 */
import type { Triple } from '../data/placement.ts';
import type { PreviewShadowsSpec } from '../document/schema.ts';
import type { SurfaceWalk } from '../place/surface-walk.ts';
import type { Footprint } from './filters/filter.ts';
import { texelAt, type MapFrame } from './frames.ts';

const TILE = 32;
/** Texels that the widest filter touches: eight to each side, its own, and the one that it begins in. */
const WIDEST = (2 * 8 + 2) ** 2;

export class DepthMap implements Footprint {
  /** Of the last `gather`. */
  count = 0;
  readonly depths = new Float64Array(WIDEST);
  readonly weights = new Float64Array(WIDEST);

  /** Of the last `project`: texels from the upper left corner, fractions allowed, and metres along the frame's axis. */
  u = 0;
  v = 0;
  z = 0;
  /** Texels that were traced. */
  traced = 0;

  private readonly tiles: (Float64Array | undefined)[] = [];
  private readonly across: number;
  private readonly ray = new Float64Array(6);
  private readonly resolution: number;
  private readonly levels: number;

  /** @param isLinear depths of a lamp's grow with the distance; otherwise as a depth buffer has them */
  constructor(
    private readonly walk: SurfaceWalk,
    readonly frame: MapFrame,
    { resolution, depthBits }: Pick<PreviewShadowsSpec, 'resolution' | 'depthBits'>,
    private readonly isLinear: boolean,
  ) {
    this.resolution = resolution;
    this.levels = 2 ** depthBits - 1;
    this.across = Math.ceil(resolution / TILE);
  }

  /** 0 at the near plane, 1 at the far one. */
  encode(metres: number): number {
    const { near, far, isParallel } = this.frame;
    return isParallel || this.isLinear ? (metres - near) / (far - near) : (far / (far - near)) * (1 - near / metres);
  }

  /** The same in the steps that a map's bits leave. */
  stored(metres: number): number {
    return Math.round(Math.min(1, this.encode(metres)) * this.levels) / this.levels;
  }

  /** Metres that a step of its bits is deep there. */
  stepAt(metres: number): number {
    const { near, far, isParallel } = this.frame;
    return isParallel || this.isLinear ? (far - near) / this.levels : (metres * metres * (far - near)) / (far * near * this.levels); // prettier-ignore
  }

  /** The texel alone that the projected place falls on. */
  gatherOne(): void {
    this.count = 1;
    this.depths[0] = this.stored(this.depth(Math.floor(this.u), Math.floor(this.v)));
    this.weights[0] = 1;
  }

  /** Depths of the texels that a square around the projected place touches, and the share of it that each covers. */
  gather(softness: number): void {
    const { u, v, depths, weights } = this;
    const reach = softness + 0.5;
    const area = 4 * reach * reach;
    this.count = 0;
    for (let row = Math.floor(v - reach); row < v + reach; row++) {
      const high = Math.min(v + reach, row + 1) - Math.max(v - reach, row);
      for (let column = Math.floor(u - reach); column < u + reach; column++) {
        const wide = Math.min(u + reach, column + 1) - Math.max(u - reach, column);
        if (!(wide > 0 && high > 0)) continue;
        depths[this.count] = this.stored(this.depth(column, row));
        weights[this.count++] = (wide * high) / area;
      }
    }
  }

  /** Where a point falls on the map; false: beside it, or behind a lamp. */
  project(x: number, y: number, z: number): boolean {
    const { origin, right, up, ahead, half, isParallel } = this.frame;
    const [px, py, pz] = [x - origin[0], y - origin[1], z - origin[2]];
    this.z = px * ahead[0] + py * ahead[1] + pz * ahead[2];
    if (!isParallel && !(this.z > 0)) return false;
    const scale = 1 / (half * (isParallel ? 1 : this.z));
    const a = (px * right[0] + py * right[1] + pz * right[2]) * scale;
    const b = (px * up[0] + py * up[1] + pz * up[2]) * scale;
    this.u = ((a + 1) / 2) * this.resolution;
    this.v = ((1 - b) / 2) * this.resolution;
    return Math.abs(a) < 1 && Math.abs(b) < 1;
  }

  /** Metres along the axis to what throws a shadow in the middle of a texel; `far` where nothing does, or beside the map. */
  depth(column: number, row: number): number {
    const { resolution, across, tiles } = this;
    if (column < 0 || row < 0 || column >= resolution || row >= resolution) return this.frame.far;
    const number = Math.floor(row / TILE) * across + Math.floor(column / TILE);
    const tile = (tiles[number] ??= new Float64Array(TILE * TILE).fill(NaN));
    const at = (row % TILE) * TILE + (column % TILE);
    if (Number.isNaN(tile[at])) tile[at] = this.exact(column + 0.5, row + 0.5);
    return tile[at];
  }

  /** The same at any place of the map. */
  exact(u: number, v: number): number {
    const { frame, resolution, ray, walk } = this;
    const { origin, right, up, ahead, half, near, far, isParallel } = frame;
    const a = ((2 * u) / resolution - 1) * half;
    const b = (1 - (2 * v) / resolution) * half;
    for (let c = 0; c < 3; c++) {
      const across = a * right[c] + b * up[c];
      ray[c] = origin[c] + (isParallel ? across : 0);
      ray[3 + c] = ahead[c] + (isParallel ? 0 : across);
    }
    // Metres along a lamp's ray for each along its axis.
    const length = isParallel ? 1 : Math.hypot(ray[3], ray[4], ray[5]);
    for (let c = 3; c < 6; c++) ray[c] /= length;
    this.traced++;
    return walk.meetsCaster(ray, near * length, far * length) ? walk.casterMetres / length : far;
  }

  /** A place of the map, so many metres along its axis. */
  pointAt(u: number, v: number, metres: number, out: Triple): void {
    const { origin, right, up, ahead, half, isParallel } = this.frame;
    const width = half * (isParallel ? 1 : metres);
    const a = ((2 * u) / this.resolution - 1) * width;
    const b = (1 - (2 * v) / this.resolution) * width;
    for (let c = 0; c < 3; c++) out[c] = origin[c] + a * right[c] + b * up[c] + metres * ahead[c];
  }

  texel(metres: number): number {
    return texelAt(this.frame, this.resolution, metres);
  }

  /** Metres along the axis, of any point. */
  along(point: Triple): number {
    const { origin, ahead } = this.frame;
    return point.reduce((sum, c, a) => sum + (c - origin[a]) * ahead[a], 0);
  }
}
