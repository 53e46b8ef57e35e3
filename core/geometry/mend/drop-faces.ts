/** Faces left out of a mesh. Points and layers stay as they are; nothing refers to what only those faces had. */
import { faceStarts, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';

/**
 * @example
 * const { degenerate, duplicates } = topologyOf(poly);
 * const clean = withoutFaces(poly, [...degenerate, ...duplicates]);
 */
export function withoutFaces(poly: PolyMesh, faces: Iterable<number>): PolyMesh {
  const dropped = new Set(faces);
  const starts = faceStarts(poly);
  const kept = [...poly.faceSizes.keys()].filter((face) => !dropped.has(face));
  const from: number[] = [];
  for (const face of kept) for (let k = 0; k < poly.faceSizes[face]; k++) from.push(starts[face] + k);
  const corners = Uint32Array.from(from);
  const layer = (of: CornerLayer): CornerLayer => ({ ...of, indices: corners.map((corner) => of.indices[corner]) });
  return {
    ...poly,
    faceSizes: Uint32Array.from(kept, (face) => poly.faceSizes[face]),
    corners: corners.map((corner) => poly.corners[corner]),
    normals: poly.normals && layer(poly.normals),
    uvs: poly.uvs.map(layer),
  };
}
