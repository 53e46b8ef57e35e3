/** Homogeneous fog in a box or everywhere: where a ray runs through it, and how much gets through. */
import type { f64 } from '../../data/numbers.ts';

export const FOG_EXTINCTION = 0;
export const FOG_ALBEDO = 1;
export const FOG_ANISOTROPY = 4;
export const FOG_MIN = 5;
export const FOG_MAX = 8;

export class FogInterval {
  /** Distances along the ray between which it is in the fog; none when they are equal. */
  near: f64 = 0;
  far: f64 = 0;

  constructor(private readonly fog: Float64Array) {}

  set(ray: Float64Array, end: number): void {
    const { fog } = this;
    let near: f64 = 0;
    let far = end;
    for (let a = 0; a < 3; a++) {
      if (ray[3 + a] === 0) {
        if (ray[a] < fog[FOG_MIN + a] || ray[a] > fog[FOG_MAX + a]) far = near;
        continue;
      }
      const inverse = 1 / ray[3 + a];
      const p = (fog[FOG_MIN + a] - ray[a]) * inverse;
      const q = (fog[FOG_MAX + a] - ray[a]) * inverse;
      if (p < q) {
        if (p > near) near = p;
        if (q < far) far = q;
      } else if (q < p) {
        if (q > near) near = q;
        if (p < far) far = p;
      }
    }
    this.near = near;
    this.far = Math.max(near, far);
  }

  /** Share of light that gets through. */
  get through(): number {
    return this.far === Infinity ? 0 : Math.exp(-this.fog[FOG_EXTINCTION] * (this.far - this.near));
  }

  /** Distance of a scattering event, drawn from those that happen before `far`, by u in [0, 1). */
  placeWithin(u: number): number {
    return this.near - Math.log1p(-u * (1 - this.through)) / this.fog[FOG_EXTINCTION];
  }

  /** Distance of the next scattering event wherever it falls. */
  place(u: number): number {
    return this.near - Math.log1p(-u) / this.fog[FOG_EXTINCTION];
  }
}
