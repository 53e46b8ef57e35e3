/**
 * The GGX distribution of microfacets, isotropic, in a frame whose +Z is the normal.
 * Sources: Walter et al., "Microfacet Models for Refraction through Rough Surfaces", 2007 (D, Λ);
 * Heitz, "Sampling the GGX Distribution of Visible Normals", 2018.
 */
import type { f64 } from '../data/numbers.ts';
import { turn } from '../data/turns.ts';

/** Density of microfacet normals at `cosine` = n·h, 1/sr. `alpha` 0–1. */
export function ggxD(cosine: number, alpha: number): number {
  const a2 = alpha * alpha;
  const c2 = cosine * cosine;
  const d = c2 * (a2 - 1) + 1;
  return a2 / (Math.PI * d * d);
}

/** Smith's Λ for a direction with `cosine` to the normal. */
export function ggxLambda(cosine: number, alpha: number): number {
  const c2 = cosine * cosine;
  if (c2 >= 1) return 0;
  const tangent2 = (1 - c2) / c2;
  return 0.5 * (Math.sqrt(1 + alpha * alpha * tangent2) - 1);
}

/** Density of normals visible from `wo` (unit, z > 0), of which `sampleVisibleNormal` draws. */
export function visibleNormalDensity(woZ: number, woDotH: number, hZ: number, alpha: number): number {
  return (ggxD(hZ, alpha) * woDotH) / ((1 + ggxLambda(woZ, alpha)) * woZ);
}

/** Writes a unit microfacet normal visible from (x, y, z), z > 0, to `out[0..2]`. */
export function sampleVisibleNormal(
  x: number,
  y: number,
  z: number,
  alpha: number,
  u1: number,
  u2: number,
  out: Float64Array,
): void {
  const vx = alpha * x;
  const vy = alpha * y;
  const inverse = 1 / Math.sqrt(vx * vx + vy * vy + z * z);
  const wx = vx * inverse;
  const wy = vy * inverse;
  const wz = z * inverse;
  const flat = wx * wx + wy * wy;
  let t1x: f64 = 1;
  let t1y: f64 = 0;
  if (flat > 0) {
    const l = 1 / Math.sqrt(flat);
    t1x = -wy * l;
    t1y = wx * l;
  }
  const t2x = -wz * t1y;
  const t2y = wz * t1x;
  const t2z = wx * t1y - wy * t1x;
  const r = Math.sqrt(u1);
  turn(u2, out);
  const p1 = r * out[0];
  const s = 0.5 * (1 + wz);
  const p2 = (1 - s) * Math.sqrt(Math.max(0, 1 - p1 * p1)) + s * r * out[1];
  const p3 = Math.sqrt(Math.max(0, 1 - p1 * p1 - p2 * p2));
  const hx = alpha * (p1 * t1x + p2 * t2x + p3 * wx);
  const hy = alpha * (p1 * t1y + p2 * t2y + p3 * wy);
  const hz = Math.max(1e-12, p2 * t2z + p3 * wz);
  const length = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz);
  out[0] = hx * length;
  out[1] = hy * length;
  out[2] = hz * length;
}
