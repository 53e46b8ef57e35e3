/** Faces of more than four vertices cut into the triangles that the renderer would trace anyway. */
import { faceStarts, trianglesOf, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';

/** @example topologyOf(withFacesCut(poly)).ngons.length;   // 0 */
export function withFacesCut(poly: PolyMesh): PolyMesh {
  const starts = faceStarts(poly);
  const sizes: number[] = [];
  const from: number[] = [];
  for (let f = 0; f < poly.faceSizes.length; f++) {
    const size = poly.faceSizes[f];
    const corners = Array.from({ length: size }, (_, k) => starts[f] + k);
    if (size <= 4) {
      sizes.push(size);
      from.push(...corners);
      continue;
    }
    from.push(...cut(poly, corners));
    for (let t = 0; t < size - 2; t++) sizes.push(3);
  }
  const pick = Uint32Array.from(from);
  const layer = (of: CornerLayer): CornerLayer => ({ ...of, indices: pick.map((corner) => of.indices[corner]) });
  return {
    ...poly,
    faceSizes: Uint32Array.from(sizes),
    corners: pick.map((corner) => poly.corners[corner]),
    normals: poly.normals && layer(poly.normals),
    uvs: poly.uvs.map(layer),
  };
}

/** Corners of the triangles of one face. Each corner is a point of its own here, so that points met twice part. */
function cut(poly: PolyMesh, corners: number[]): number[] {
  const points = corners.flatMap((corner) => {
    const p = poly.corners[corner] * 3;
    return [poly.points[p], poly.points[p + 1], poly.points[p + 2]];
  });
  const { indices, pointOf } = trianglesOf({
    ...poly,
    points: Float32Array.from(points),
    faceSizes: Uint32Array.of(corners.length),
    corners: Uint32Array.from(corners.keys()),
    normals: null,
    uvs: [],
  });
  return Array.from(indices, (vertex) => corners[pointOf[vertex]]);
}
