/** `Intersector` within the kernel: the walk without a way through memory. */
import { F64s } from './prelude';
import { beginWalk, bestCorner, bestInstance, bestT, bestTriangle, bestU, bestV, slotAt, walk } from './walk';

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
  private corner: usize = 0;

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

  /** From the packet that the hit was found in, which is at hand. */
  faceNormal(out: F64s): void {
    const p = this.corner;
    const x = <f64>load<f32>(p);
    const y = <f64>load<f32>(p, 16);
    const z = <f64>load<f32>(p, 32);
    const ex = <f64>load<f32>(p, 48) - x;
    const ey = <f64>load<f32>(p, 64) - y;
    const ez = <f64>load<f32>(p, 80) - z;
    const fx = <f64>load<f32>(p, 96) - x;
    const fy = <f64>load<f32>(p, 112) - y;
    const fz = <f64>load<f32>(p, 128) - z;
    out[0] = ey * fz - ez * fy;
    out[1] = ez * fx - ex * fz;
    out[2] = ex * fy - ey * fx;
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
    this.corner = bestCorner;
    return true;
  }
}
