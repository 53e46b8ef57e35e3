/** Rays through the WebAssembly kernel, behind the same interface as the TypeScript twin and with the same hits. */
import type { Intersector } from './intersector.ts';
import { NOTHING_BEFORE } from './intersector.ts';
import { SLOT_BYTES, type Layout } from './packed-geometry.ts';

/** What a host makes of the compiled kernel and a scene's memory. */
export interface IntersectKernel {
  /** Traces the ray that stands in a thread's slot. */
  trace(slot: number, mask: number, any: number): number;
}

// Where things stand in a slot, as doubles and as words; see `core/kernels/render/walk.ts`.
const RAY = 6;
const END = RAY + 6;
const AFTER = RAY + 7;
const HIT_INSTANCE = 6;
const HIT_TRIANGLE = 7;
const SLICE = 8;
const AFTER_INSTANCE = 9;
const AFTER_TRIANGLE = 10;
const CORNER = 11;

export class KernelIntersector implements Intersector {
  t = 0;
  instance = 0;
  triangle = 0;
  u = 0;
  v = 0;

  private readonly floats: Float32Array;
  private readonly doubles: Float64Array;
  private readonly words: Int32Array;
  private mask = 0;

  /**
   * @param slot of this thread, below `SLOTS`; no two threads of a process may share one
   * @param slots address of the first slot, see `Layout`
   */
  constructor(
    private readonly kernel: IntersectKernel,
    buffer: ArrayBufferLike,
    slots: Layout['slots'],
    private readonly slot: number,
  ) {
    this.doubles = new Float64Array(buffer, slots + slot * SLOT_BYTES, AFTER + 1);
    this.words = new Int32Array(buffer, slots + slot * SLOT_BYTES, CORNER + 1);
    this.floats = new Float32Array(buffer, 0, slots / 4);
    this.slice = 0;
  }

  get slice(): number {
    return this.words[SLICE];
  }

  set slice(slice: number) {
    this.words[SLICE] = slice;
  }

  closest(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number): boolean {
    this.put(ox, oy, oz, dx, dy, dz, tMax, mask);
    return this.take(this.kernel.trace(this.slot, this.mask, 0));
  }

  closestAfter(t: number, instance: number, triangle: number): boolean {
    this.doubles[AFTER] = t;
    this.words[AFTER_INSTANCE] = instance;
    this.words[AFTER_TRIANGLE] = triangle;
    return this.take(this.kernel.trace(this.slot, this.mask, 0));
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
    this.put(ox, oy, oz, dx, dy, dz, tMax, mask);
    return this.kernel.trace(this.slot, this.mask, 1) !== 0;
  }

  faceNormal(out: Float64Array): void {
    const { floats: p, words } = this;
    const a = (words[CORNER] >>> 0) / 4;
    const ex = p[a + 12] - p[a];
    const ey = p[a + 16] - p[a + 4];
    const ez = p[a + 20] - p[a + 8];
    const fx = p[a + 24] - p[a];
    const fy = p[a + 28] - p[a + 4];
    const fz = p[a + 32] - p[a + 8];
    out[0] = ey * fz - ez * fy;
    out[1] = ez * fx - ex * fz;
    out[2] = ex * fy - ey * fx;
  }

  private put(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number) {
    const { doubles, words } = this;
    doubles[RAY] = ox;
    doubles[RAY + 1] = oy;
    doubles[RAY + 2] = oz;
    doubles[RAY + 3] = dx;
    doubles[RAY + 4] = dy;
    doubles[RAY + 5] = dz;
    doubles[END] = tMax;
    doubles[AFTER] = 0;
    words[AFTER_INSTANCE] = NOTHING_BEFORE;
    words[AFTER_TRIANGLE] = 0;
    this.mask = mask | 0;
  }

  private take(found: number): boolean {
    if (found === 0) {
      this.instance = -1;
      return false;
    }
    const { doubles, words } = this;
    this.t = doubles[0];
    this.u = doubles[1];
    this.v = doubles[2];
    this.instance = words[HIT_INSTANCE];
    this.triangle = words[HIT_TRIANGLE];
    return true;
  }
}
