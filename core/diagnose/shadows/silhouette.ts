/**
 * The outline of a mesh as a light sees it, and how far its straight edges are off the curve that smooth normals promise. Edges whose
 * two sides have normals of their own are corners that were modelled, and no part of it.
 */
import { NumberMap, weld } from '../../data/poly-mesh.ts';
import type { Triple } from '../../data/placement.ts';
import type { CompiledMesh } from '../../geometry/scene-geometry.ts';

export interface Silhouette {
  /** Of the outline's corners, the 75th percentile by how far they are off: degrees that it turns, and metres of the edges there. */
  degrees: number;
  metres: number;
  /** Metres between an edge and the arc through its ends, of a circle that turns as much: L θ / 8 (small angles). */
  off: number;
}

/** Corners that an outline must have to be told, triangles beyond which nobody waits, and cosine of normals that are one. */
const LEAST = 6;
const MOST = 400_000;
const ONE = Math.cos(Math.PI / 180);

/**
 * @param rows of the transform to the world, 3 × 4
 * @param towards unit, from the mesh to the light
 * @returns null for meshes without smooth normals or outlines that were modelled with corners
 */
export function silhouetteOf(mesh: CompiledMesh, rows: ArrayLike<number>, towards: Triple): Silhouette | null {
  const { positions, normals, indices } = mesh;
  if (!normals || indices.length / 3 > MOST) return null;
  const { points, pointOf } = weld(positions);
  const world = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3)
    for (let a = 0; a < 3; a++) world[i + a] = rows[a * 4] * points[i] + rows[a * 4 + 1] * points[i + 1] + rows[a * 4 + 2] * points[i + 2] + rows[a * 4 + 3]; // prettier-ignore
  const edges = new NumberMap(indices.length, 2);
  // By edge: its ends, the side that its first face turns to the light, and vertices of both faces at the lower end.
  const ends: number[] = [];
  const side: number[] = [];
  const vertexAt: number[] = [];
  const outline = new Map<number, number[]>();
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => pointOf[indices[t + k]] * 3);
    const u = [0, 1, 2].map((k) => world[b + k] - world[a + k]);
    const v = [0, 1, 2].map((k) => world[c + k] - world[a + k]);
    const faces = (u[1] * v[2] - u[2] * v[1]) * towards[0] + (u[2] * v[0] - u[0] * v[2]) * towards[1] + (u[0] * v[1] - u[1] * v[0]) * towards[2]; // prettier-ignore
    for (let k = 0; k < 3; k++) {
      const [from, to] = [indices[t + k], indices[t + ((k + 1) % 3)]];
      const [p, q] = [pointOf[from], pointOf[to]];
      const low = p < q ? from : to;
      const before = edges.size;
      const edge = edges.add(Math.min(p, q), Math.max(p, q));
      if (edge === before) {
        ends.push(p, q);
        side.push(Math.sign(faces));
        vertexAt.push(low);
      } else if (Math.sign(faces) * side[edge] < 0 && isSmooth(normals, vertexAt[edge], low)) {
        for (const point of [p, q]) outline.set(point, [...(outline.get(point) ?? []), edge]);
      }
    }
  }
  const corners: Silhouette[] = [];
  for (const [point, own] of outline) {
    if (own.length !== 2) continue;
    const [one, other] = own.map((edge) => across(world, point, ends[2 * edge] === point ? ends[2 * edge + 1] : ends[2 * edge], towards)); // prettier-ignore
    const [l, m] = [Math.hypot(...one), Math.hypot(...other)];
    if (!(l > 0 && m > 0)) continue;
    // Both lead away from the point: straight on is half a turn apart.
    const turn = Math.PI - Math.acos(Math.min(1, Math.max(-1, (one[0] * other[0] + one[1] * other[1] + one[2] * other[2]) / (l * m)))); // prettier-ignore
    const metres = (l + m) / 2;
    corners.push({ degrees: (turn * 180) / Math.PI, metres, off: (metres * turn) / 8 });
  }
  if (corners.length < LEAST) return null;
  corners.sort((a, b) => a.off - b.off);
  return corners[Math.floor(0.75 * (corners.length - 1))];
}

/** From one point to another, across the light's direction. */
function across(world: Float64Array, from: number, to: number, towards: Triple): Triple {
  const way = [0, 1, 2].map((a) => world[3 * to + a] - world[3 * from + a]);
  const along = way[0] * towards[0] + way[1] * towards[1] + way[2] * towards[2];
  return way.map((v, a) => v - along * towards[a]) as Triple;
}

function isSmooth(normals: Float32Array, a: number, b: number): boolean {
  if (a === b) return true;
  const [i, j] = [3 * a, 3 * b];
  return normals[i] * normals[j] + normals[i + 1] * normals[j + 1] + normals[i + 2] * normals[j + 2] >= ONE;
}
