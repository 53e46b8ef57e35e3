/** Rays through the WebAssembly kernel, behind the same interface as the TypeScript twin and with the same hits. */
import type { Intersector } from './intersector.ts';
import { NOTHING_BEFORE } from './intersector.ts';
import { SLOT_BYTES, type Layout } from './packed-geometry.ts';

/** What a host makes of the compiled kernel and a scene's memory. */
export interface IntersectKernel {
  trace(
    slot: number,
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    tMax: number,
    mask: number,
    afterT: number,
    afterInstance: number,
    afterTriangle: number,
    any: number,
  ): number;
}

export class KernelIntersector implements Intersector {
  t = 0;
  instance = 0;
  triangle = 0;
  u = 0;
  v = 0;

  private readonly doubles: Float64Array;
  private readonly words: Int32Array;
  /** Origin, direction, greatest distance; kept for `closestAfter`. */
  private readonly ray = new Float64Array(7);
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
    this.doubles = new Float64Array(buffer, slots + slot * SLOT_BYTES, 3);
    this.words = new Int32Array(buffer, slots + slot * SLOT_BYTES + 24, 3);
    this.words[2] = 0;
  }

  get slice(): number {
    return this.words[2];
  }

  set slice(slice: number) {
    this.words[2] = slice;
  }

  closest(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, tMax: number, mask: number): boolean {
    const r = this.ray;
    r[0] = ox;
    r[1] = oy;
    r[2] = oz;
    r[3] = dx;
    r[4] = dy;
    r[5] = dz;
    r[6] = tMax;
    this.mask = mask;
    return this.take(this.kernel.trace(this.slot, ox, oy, oz, dx, dy, dz, tMax, mask, 0, NOTHING_BEFORE, 0, 0));
  }

  closestAfter(t: number, instance: number, triangle: number): boolean {
    const r = this.ray;
    return this.take(
      this.kernel.trace(this.slot, r[0], r[1], r[2], r[3], r[4], r[5], r[6], this.mask, t, instance, triangle, 0),
    );
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
    return this.kernel.trace(this.slot, ox, oy, oz, dx, dy, dz, tMax, mask, 0, NOTHING_BEFORE, 0, 1) !== 0;
  }

  private take(found: number): boolean {
    if (found === 0) {
      this.instance = -1;
      return false;
    }
    this.t = this.doubles[0];
    this.u = this.doubles[1];
    this.v = this.doubles[2];
    this.instance = this.words[0];
    this.triangle = this.words[1];
    return true;
  }
}
