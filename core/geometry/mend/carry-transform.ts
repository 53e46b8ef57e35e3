/** The stretch, shear and mirroring of a transform carried into the points, so that the object needs none. */
import { determinant, type Transform } from '../../data/transform.ts';
import { faceStarts, type CornerLayer, type PolyMesh } from '../../data/poly-mesh.ts';

/**
 * @param m column-major; its last column, the place, is left to the object
 * @example const straight = carriedOut(poly, sheared);   // stands at translation(sheared[12], …) as poly did at sheared
 */
export function carriedOut(poly: PolyMesh, m: Transform): PolyMesh {
  const points = poly.points.slice();
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = poly.points.subarray(i, i + 3);
    for (let a = 0; a < 3; a++) points[i + a] = m[a] * x + m[4 + a] * y + m[8 + a] * z;
  }
  const isMirrored = determinant(m) < 0;
  const starts = faceStarts(poly);
  const from = Uint32Array.from(poly.corners.keys());
  if (isMirrored)
    for (let f = 0; f < starts.length; f++) from.subarray(starts[f], starts[f] + poly.faceSizes[f]).reverse();
  const layer = (of: CornerLayer): CornerLayer => ({ ...of, indices: from.map((corner) => of.indices[corner]) });
  return {
    ...poly,
    points,
    corners: from.map((corner) => poly.corners[corner]),
    normals: poly.normals && { ...layer(poly.normals), values: carriedNormals(poly.normals.values, m) },
    uvs: poly.uvs.map(layer),
  };
}

/** By the inverse transpose, that is the cofactors, up to a factor whose sign mirroring turns. */
function carriedNormals(values: Float32Array, m: Transform): Float32Array {
  const sign = Math.sign(determinant(m)) || 1;
  const at = (row: number, column: number) => m[column * 4 + row];
  const cofactor = (r: number, c: number) =>
    at((r + 1) % 3, (c + 1) % 3) * at((r + 2) % 3, (c + 2) % 3) -
    at((r + 1) % 3, (c + 2) % 3) * at((r + 2) % 3, (c + 1) % 3);
  const out = values.slice();
  for (let i = 0; i < values.length; i += 3) {
    const n = [0, 1, 2].map((r) => [0, 1, 2].reduce((sum, c) => sum + sign * cofactor(r, c) * values[i + c], 0));
    const length = Math.hypot(...n) || 1;
    for (let a = 0; a < 3; a++) out[i + a] = n[a] / length;
  }
  return out;
}
