/**
 * Holes closed by triangles: each ring of open edges is cut into ears as a face of its own. Only rings that lie in a
 * plane are closed; what belongs in any other nobody can tell from its rim.
 *
 * @example
 * topologyOf(withHolesClosed(jarWithoutFloor)).openEdges.length;   // 0
 */
import { faceStarts, trianglesOf, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';

/** Distance from the plane, as a share of the ring's size, up to which it counts as flat. */
const FLAT = 1e-3;

export function withHolesClosed(poly: PolyMesh): PolyMesh {
  const rings = openRings(poly).filter((ring) => isFlat(poly, ring));
  if (rings.length === 0) return poly;
  const added: number[] = [];
  for (const ring of rings) {
    const face: PolyMesh = {
      ...poly,
      faceSizes: Uint32Array.of(ring.length),
      corners: Uint32Array.from(ring),
      normals: null,
      uvs: [],
    };
    const { indices, pointOf } = trianglesOf(face);
    added.push(...Array.from(indices, (vertex) => pointOf[vertex]));
  }

  return {
    ...poly,
    faceSizes: Uint32Array.from([...poly.faceSizes, ...new Array<number>(added.length / 3).fill(3)]),
    corners: Uint32Array.from([...poly.corners, ...added]),
    normals: poly.normals && flatNormals(poly, added),
    uvs: poly.uvs.map((set) => extended(set, poly, added)),
  };
}

/** Points of each ring of edges that only one face has, run along against that face. */
function openRings(poly: PolyMesh): number[][] {
  const { faceSizes, corners } = poly;
  const starts = faceStarts(poly);
  const edges = new Map<string, [number, number] | null>();
  for (let f = 0; f < faceSizes.length; f++)
    for (let k = 0; k < faceSizes[f]; k++) {
      const a = corners[starts[f] + k];
      const b = corners[starts[f] + ((k + 1) % faceSizes[f])];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      edges.set(key, edges.has(key) ? null : [b, a]);
    }
  const next = new Map<number, number>();
  const forks = new Set<number>();
  for (const edge of edges.values()) {
    if (!edge) continue;
    if (next.has(edge[0])) forks.add(edge[0]);
    next.set(edge[0], edge[1]);
  }
  const rings: number[][] = [];
  const seen = new Set<number>();
  for (const first of next.keys()) {
    if (seen.has(first)) continue;
    const ring: number[] = [];
    let at: number | undefined = first;
    while (at !== undefined && !seen.has(at)) {
      seen.add(at);
      ring.push(at);
      at = next.get(at);
    }
    if (at === first && ring.length > 2 && !ring.some((point) => forks.has(point))) rings.push(ring);
  }
  return rings;
}

const pointAt = ({ points }: PolyMesh, p: number): number[] => [points[p * 3], points[p * 3 + 1], points[p * 3 + 2]];

/** Twice the area a ring spans, as a vector. Source: Newell's method. */
function ringNormal(poly: PolyMesh, ring: number[]): number[] {
  const sum = [0, 0, 0];
  ring.forEach((point, k) => {
    const p = pointAt(poly, point);
    const q = pointAt(poly, ring[(k + 1) % ring.length]);
    for (let a = 0; a < 3; a++) sum[a] += (p[(a + 1) % 3] - q[(a + 1) % 3]) * (p[(a + 2) % 3] + q[(a + 2) % 3]);
  });
  return sum;
}

function isFlat(poly: PolyMesh, ring: number[]): boolean {
  const normal = ringNormal(poly, ring);
  const area = Math.hypot(...normal);
  if (area === 0) return false;
  const heights = ring.map((point) => pointAt(poly, point).reduce((sum, v, a) => sum + (v * normal[a]) / area, 0));
  return Math.max(...heights) - Math.min(...heights) <= FLAT * Math.sqrt(area);
}

/** Each new corner takes the value of an old corner at its point. */
function extended(of: CornerLayer, poly: PolyMesh, added: number[]): CornerLayer {
  const valueOf = new Map<number, number>();
  poly.corners.forEach((point, corner) => valueOf.has(point) || valueOf.set(point, of.indices[corner]));
  return { ...of, indices: Uint32Array.from([...of.indices, ...added.map((point) => valueOf.get(point)!)]) };
}

/** New faces are flat: their corners take the normal of their triangle. */
function flatNormals(poly: PolyMesh, added: number[]): CornerLayer {
  const { normals } = poly;
  const values = [...normals!.values];
  const indices = [...normals!.indices];
  for (let t = 0; t < added.length; t += 3) {
    const normal = ringNormal(poly, added.slice(t, t + 3));
    const length = Math.hypot(...normal) || 1;
    indices.push(...new Array<number>(3).fill(values.length / 3));
    values.push(...normal.map((v) => v / length));
  }
  return { ...normals!, values: Float32Array.from(values), indices: Uint32Array.from(indices) };
}
