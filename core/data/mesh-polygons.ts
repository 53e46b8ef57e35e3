/** Triangles back to the polygons they were cut from, by what the mesh says of them. */
import type { Mesh, PolygonData } from './mesh.ts';
import { polygonsOf, type PolyMesh } from './poly-mesh.ts';

/**
 * The polygons of a triangle mesh.
 * @throws RangeError naming the mesh when data and triangles do not go together
 */
export function meshPolygons(mesh: Mesh, data: PolygonData | null, where: string): PolyMesh {
  const triangles = polygonsOf(mesh);
  if (!data) return triangles;
  const sizes: number[] = [];
  const corners: number[] = [];
  let triangle = 0;
  for (let r = 0; r + 1 < data.faces.length; r += 2)
    for (let k = 0; k < data.faces[r + 1]; k++) {
      const size = data.faces[r];
      const count = size - 2;
      if (!(count >= 1) || (triangle + count) * 3 > mesh.indices.length)
        throw new RangeError(`${where}: its polygons and its triangles do not go together`);
      const outline = outlineOf(mesh.indices.subarray(triangle * 3, (triangle + count) * 3));
      if (outline.length === size) {
        sizes.push(size);
        corners.push(...outline);
      } else
        for (let t = triangle; t < triangle + count; t++) {
          sizes.push(3);
          corners.push(...mesh.indices.subarray(t * 3, t * 3 + 3));
        }
      triangle += count;
    }
  if (triangle * 3 !== mesh.indices.length)
    throw new RangeError(`${where}: its polygons and its triangles do not go together`);
  const vertices = Uint32Array.from(corners);
  const pointOf = pointsOfVertices(triangles, mesh);
  const at = (layer: PolyMesh['normals']) => layer && { ...layer, indices: vertices };
  return {
    ...triangles,
    faceSizes: Uint32Array.from(sizes),
    corners: vertices.map((vertex) => pointOf[vertex]),
    normals: at(triangles.normals),
    uvs: triangles.uvs.map((layer) => at(layer)!),
    subdivision: data.subdivision,
    creases: {
      edges: Uint32Array.from(
        data.creases.filter((_, i) => i % 3 < 2),
        (vertex) => pointOf[vertex],
      ),
      sharpness: Float32Array.from(data.creases.filter((_, i) => i % 3 === 2)),
    },
    ...(data.corners?.length && {
      sharpPoints: {
        points: Uint32Array.from(
          data.corners.filter((_, i) => i % 2 === 0),
          (vertex) => pointOf[vertex],
        ),
        sharpness: Float32Array.from(data.corners.filter((_, i) => i % 2 === 1)),
      },
    }),
  };
}

function pointsOfVertices({ corners }: PolyMesh, { indices, positions }: Mesh): Uint32Array {
  const pointOf = new Uint32Array(positions.length / 3);
  indices.forEach((vertex, i) => (pointOf[vertex] = corners[i]));
  return pointOf;
}

/** The edges that only one of the triangles has, in a ring from the first corner. */
function outlineOf(triangles: Uint32Array): number[] {
  if (triangles.length === 3) return [...triangles];
  const next = new Map<number, number>();
  for (let i = 0; i < triangles.length; i++) {
    const [a, b] = [triangles[i], triangles[i % 3 === 2 ? i - 2 : i + 1]];
    if (next.get(b) === a) next.delete(b);
    else next.set(a, b);
  }
  const start = triangles[0];
  const outline = [start];
  for (let at = next.get(start); at !== undefined && at !== start; at = next.get(at)) {
    if (outline.length > next.size) return [];
    outline.push(at);
  }
  return outline;
}
