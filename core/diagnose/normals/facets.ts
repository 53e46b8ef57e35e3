/**
 * Whether a mesh is cut into facets: a curved surface in flat pieces is one whose faces meet at small angles and whose shading
 * normals jump there. Flat plates have no such edges, boxes and cut stones meet at large ones, and smooth normals do not jump.
 */
import type { Mesh } from '../../data/mesh.ts';

/** Degrees between faces: less is flat, more is an edge that is meant. */
const [FLAT, MEANT] = [0.5, 40];
/** Share of the angle between two faces that shading normals must jump. */
const JUMP = 0.5;
/** Share of the surface that must lie in such faces. */
const AREA = 0.3;
/** Facets of a mesh of more triangles are too small to be seen as such. */
const MOST = 300_000;
const RADIAN = Math.PI / 180;

/** @param isFlat shaded by its faces, whatever normals it has */
export function isFaceted({ positions, normals, indices }: Mesh, isFlat: boolean): boolean {
  const faces = indices.length / 3;
  if (faces > MOST) return false;
  const own = new Float64Array(faces * 3);
  const area = new Float64Array(faces);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
    const [ux, uy, uz] = [0, 1, 2].map((k) => positions[b + k] - positions[a + k]);
    const [vx, vy, vz] = [0, 1, 2].map((k) => positions[c + k] - positions[a + k]);
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    area[f] = Math.hypot(...n);
    for (let k = 0; k < 3; k++) own[f * 3 + k] = area[f] > 0 ? n[k] / area[f] : 0;
  }
  const places = weld(positions);
  const edges = new Map<number, number>();
  const isFacet = new Uint8Array(faces);
  const count = positions.length / 3;
  for (let f = 0; f < faces; f++)
    for (let k = 0; k < 3; k++) {
      const [i, j] = [indices[f * 3 + k], indices[f * 3 + ((k + 1) % 3)]];
      const [p, q] = [places[i], places[j]];
      const key = p < q ? p * count + q : q * count + p;
      const other = edges.get(key);
      if (other === undefined) {
        edges.set(key, f);
        continue;
      }
      const angle = between(own, f * 3, own, other * 3);
      if (angle < FLAT || angle > MEANT || area[f] === 0 || area[other] === 0) continue;
      if (!isFlat && normals) {
        const there = [0, 1, 2].map((c) => indices[other * 3 + c]).find((corner) => places[corner] === p);
        if (there !== undefined && between(normals, i * 3, normals, there * 3) < JUMP * angle) continue;
      }
      isFacet[f] = isFacet[other] = 1;
    }
  const all = area.reduce((a, b) => a + b, 0);
  return area.reduce((sum, one, f) => sum + (isFacet[f] ? one : 0), 0) >= AREA * all && all > 0;
}

/** Of each vertex the first that stands in the same place. */
function weld(positions: Float32Array): Uint32Array {
  const first = new Map<string, number>();
  return Uint32Array.from({ length: positions.length / 3 }, (_, i) => {
    const key = `${positions[i * 3]} ${positions[i * 3 + 1]} ${positions[i * 3 + 2]}`;
    const known = first.get(key);
    if (known === undefined) first.set(key, i);
    return known ?? i;
  });
}

/** Degrees between two directions. */
function between(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number {
  const [la, lb] = [Math.hypot(a[i], a[i + 1], a[i + 2]), Math.hypot(b[j], b[j + 1], b[j + 2])];
  if (la === 0 || lb === 0) return 0;
  const cosine = (a[i] * b[j] + a[i + 1] * b[j + 1] + a[i + 2] * b[j + 2]) / (la * lb);
  return Math.acos(Math.max(-1, Math.min(1, cosine))) / RADIAN;
}
