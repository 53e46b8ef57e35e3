/** `Intersector` within the kernel: the walk without a way through memory. */
import { beginWalk, bestInstance, bestT, bestTriangle, bestU, bestV, slotAt, walk } from './walk';

const NOTHING_BEFORE: i32 = 0x7fffffff;

@final @unmanaged
export class Intersector {
  t: f64 = 0;
  u: f64 = 0;
  v: f64 = 0;
  instance: i32 = 0;
  triangle: i32 = 0;
  slice: i32 = 0;
  private mask: i32 = 0;
  private ox: f64 = 0;
  private oy: f64 = 0;
  private oz: f64 = 0;
  private dx: f64 = 0;
  private dy: f64 = 0;
  private dz: f64 = 0;
  private end: f64 = 0;
  private place: usize = 0;

  constructor(slot: i32) {
    this.place = slotAt(slot);
  }

  closest(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, tMax: f64, mask: i32): bool {
    this.ox = ox;
    this.oy = oy;
    this.oz = oz;
    this.dx = dx;
    this.dy = dy;
    this.dz = dz;
    this.end = tMax;
    this.mask = mask;
    beginWalk(tMax, 0, NOTHING_BEFORE, 0);
    return this.take(walk(this.place, mask, false, this.slice, ox, oy, oz, dx, dy, dz));
  }

  closestAfter(t: f64, instance: i32, triangle: i32): bool {
    beginWalk(this.end, t, instance, triangle);
    return this.take(
      walk(this.place, this.mask, false, this.slice, this.ox, this.oy, this.oz, this.dx, this.dy, this.dz),
    );
  }

  occluded(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, tMax: f64, mask: i32): bool {
    beginWalk(tMax, 0, NOTHING_BEFORE, 0);
    return walk(this.place, mask, true, this.slice, ox, oy, oz, dx, dy, dz);
  }

  private take(found: bool): bool {
    if (!found) {
      this.instance = -1;
      return false;
    }
    this.t = bestT;
    this.u = bestU;
    this.v = bestV;
    this.instance = bestInstance;
    this.triangle = bestTriangle;
    return true;
  }
}
