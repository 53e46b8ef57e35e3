/** Rectangles and discs: radiance leaves evenly from the side that local −Z points to; from behind they are not there. */
import type { i32 } from '../data/numbers.ts';
import type { LightSpec } from '../document/schema.ts';
import { LIGHT_RECTANGLE, LIGHT_SHAPE } from './table.ts';

/** Corner of the rectangle, or middle of the disc. */
export const QUAD_PLACE = LIGHT_SHAPE;
/** Edges of the rectangle, or half axes of the disc. */
export const QUAD_U = LIGHT_SHAPE + 3;
export const QUAD_V = LIGHT_SHAPE + 6;
/** Unit, on the shining side. */
export const QUAD_NORMAL = LIGHT_SHAPE + 9;
export const QUAD_AREA = LIGHT_SHAPE + 12;
/** Squared lengths of both edges or half axes, for hits; skewed ones need their product too. */
export const QUAD_UU = LIGHT_SHAPE + 13;
export const QUAD_VV = LIGHT_SHAPE + 14;
export const QUAD_UV = LIGHT_SHAPE + 15;

type QuadSpec = Extract<LightSpec, { kind: 'rectangle' | 'disc' }>;

export function writeQuad(table: Float64Array, o: number, spec: QuadSpec): void {
  const m = spec.transform;
  const isRectangle = spec.kind === 'rectangle';
  const [su, sv] = isRectangle ? [spec.width, spec.height] : [spec.radius, spec.radius];
  const u = [m[0] * su, m[1] * su, m[2] * su];
  const v = [m[4] * sv, m[5] * sv, m[6] * sv];
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const cross = Math.hypot(...n);
  const side = -(Math.sign(n[0] * m[8] + n[1] * m[9] + n[2] * m[10]) || 1) / (cross || 1);
  for (let a = 0; a < 3; a++) {
    table[o + QUAD_PLACE + a] = m[12 + a] - (isRectangle ? (u[a] + v[a]) / 2 : 0);
    table[o + QUAD_U + a] = u[a];
    table[o + QUAD_V + a] = v[a];
    table[o + QUAD_NORMAL + a] = n[a] * side;
  }
  const dot = (p: number[], q: number[]) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  table[o + QUAD_AREA] = isRectangle ? cross : Math.PI * cross;
  table[o + QUAD_UU] = dot(u, u);
  table[o + QUAD_VV] = dot(v, v);
  table[o + QUAD_UV] = dot(u, v);
}

/** Distance along the ray at which it meets the shining side, or Infinity. */
export function hitQuad(table: Float64Array, o: i32, ray: Float64Array): number {
  const n = o + QUAD_NORMAL;
  const p = o + QUAD_PLACE;
  const facing = table[n] * ray[3] + table[n + 1] * ray[4] + table[n + 2] * ray[5];
  if (!(facing < 0)) return Infinity;
  const x = table[p] - ray[0];
  const y = table[p + 1] - ray[1];
  const z = table[p + 2] - ray[2];
  const t = (table[n] * x + table[n + 1] * y + table[n + 2] * z) / facing;
  if (!(t > 0)) return Infinity;
  const qx = t * ray[3] - x;
  const qy = t * ray[4] - y;
  const qz = t * ray[5] - z;
  const u = o + QUAD_U;
  const v = o + QUAD_V;
  const qu = qx * table[u] + qy * table[u + 1] + qz * table[u + 2];
  const qv = qx * table[v] + qy * table[v + 1] + qz * table[v + 2];
  const uu = table[o + QUAD_UU];
  const vv = table[o + QUAD_VV];
  const uv = table[o + QUAD_UV];
  const d = 1 / (uu * vv - uv * uv);
  const a = (qu * vv - qv * uv) * d;
  const b = (qv * uu - qu * uv) * d;
  const inside = table[o] === LIGHT_RECTANGLE ? a >= 0 && a <= 1 && b >= 0 && b <= 1 : a * a + b * b <= 1;
  return inside ? t : Infinity;
}
