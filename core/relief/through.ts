/**
 * Whether a surface is moved through itself: further in than it is thick, or further out than its own other side is away. Asked of
 * the vertices that move most, by a ray along the way they go.
 */
import type { MovedShape } from '../seams/moved-shapes.ts';

/** Vertices that are asked, of those that move most: of each so many triangles are looked at. */
const ASKED = 48;
/** Share of a vertex’s way from which on it is not its own faces that the ray leaves. */
const OWN = 1e-4;

export interface Through {
  /** Share of those asked that go through. */
  share: number;
  /** The least part of its way after which one meets the surface: 1 and more: none does. */
  least: number;
}

export function movedThrough({ mesh }: Pick<MovedShape, 'mesh'>): Through {
  const { before, positions, indices } = mesh;
  const count = before.length / 3;
  const ways = Float32Array.from({ length: count }, (_, v) => Math.hypot(positions[3 * v] - before[3 * v], positions[3 * v + 1] - before[3 * v + 1], positions[3 * v + 2] - before[3 * v + 2]));
  const order = Uint32Array.from({ length: count }, (_, v) => v).sort((a, b) => ways[b] - ways[a]);
  const most = Math.min(ASKED, count);
  // Every so-many-th of the tenth that moves most: the very first may all stand together.
  const step = Math.max(1, Math.floor(count / 10 / most));
  let [through, least] = [0, Infinity];
  for (let k = 0; k < most; k++) {
    const v = order[k * step];
    if (ways[v] === 0) continue;
    const origin = [0, 1, 2].map((a) => before[3 * v + a]);
    const way = [0, 1, 2].map((a) => positions[3 * v + a] - before[3 * v + a]);
    const at = firstAlong(before, indices, origin, way);
    if (at <= 1) through += 1;
    least = Math.min(least, at);
  }
  return { share: through / most, least };
} // prettier-ignore

/** Where a ray meets the triangles, in lengths of its direction. Source: Möller & Trumbore 1997. */
function firstAlong(points: Float32Array, indices: Uint32Array, [ox, oy, oz]: number[], [dx, dy, dz]: number[]): number {
  let first = Infinity;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
    const [ux, uy, uz] = [points[b] - points[a], points[b + 1] - points[a + 1], points[b + 2] - points[a + 2]];
    const [vx, vy, vz] = [points[c] - points[a], points[c + 1] - points[a + 1], points[c + 2] - points[a + 2]];
    const [px, py, pz] = [dy * vz - dz * vy, dz * vx - dx * vz, dx * vy - dy * vx];
    const det = ux * px + uy * py + uz * pz;
    if (det === 0) continue;
    const [sx, sy, sz] = [ox - points[a], oy - points[a + 1], oz - points[a + 2]];
    const u = (sx * px + sy * py + sz * pz) / det;
    if (u < 0 || u > 1) continue;
    const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
    const v = (dx * qx + dy * qy + dz * qz) / det;
    if (v < 0 || u + v > 1) continue;
    const at = (vx * qx + vy * qy + vz * qz) / det;
    if (at > OWN && at < first) first = at;
  }
  return first;
} // prettier-ignore
