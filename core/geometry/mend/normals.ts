/**
 * Normals put right: of length 1, and on the side to which their face looks. One that points clearly backwards is
 * turned about; one that leans a little too far is mirrored at its face, so that the shading stays smooth; one that
 * is none becomes its face's.
 *
 * @example
 * normalsOfTheirFaces(poly).normals;   // no corner against its face
 */
import { faceNormal, faceStarts, smoothNormals, type PolyMesh } from '../../data/poly-mesh.ts';

/** Cosine to the face from which on a normal is meant the other way about. */
const BACKWARDS = -0.5;

export function normalsOfTheirFaces(poly: PolyMesh): PolyMesh {
  const { normals, faceSizes } = poly;
  if (!normals) return poly;
  const starts = faceStarts(poly);
  const values: number[] = [...normals.values];
  const indices = normals.indices.slice();
  // A mended normal is kept beside the old one, for other faces may have the old one and be right.
  const made = new Map<string, number>();
  const mend = (corner: number, normal: number[]) => {
    const key = normal.map((v) => v.toFixed(6)).join(' ');
    let at = made.get(key);
    if (at === undefined) {
      made.set(key, (at = values.length / 3));
      values.push(...normal);
    }
    indices[corner] = at;
  };
  for (let f = 0; f < faceSizes.length; f++) {
    const face = faceNormal(poly, starts[f], faceSizes[f]);
    const area = Math.hypot(...face);
    if (area === 0) continue;
    for (let corner = starts[f]; corner < starts[f] + faceSizes[f]; corner++) {
      const n = [0, 1, 2].map((a) => normals.values[normals.indices[corner] * 3 + a]);
      const length = Math.hypot(...n);
      if (!(length > 1e-6 && length < Infinity)) {
        mend(
          corner,
          face.map((v) => v / area),
        );
        continue;
      }
      const cosine = n.reduce((sum, v, a) => sum + v * face[a], 0) / length / area;
      if (cosine >= 0 && Math.abs(length - 1) < 0.01) continue;
      if (cosine >= 0)
        mend(
          corner,
          n.map((v) => v / length),
        );
      else if (cosine < BACKWARDS)
        mend(
          corner,
          n.map((v) => -v / length),
        );
      else
        mend(
          corner,
          n.map((v, a) => v / length - (2 * cosine * face[a]) / area),
        );
    }
  }
  return { ...poly, normals: { ...normals, values: Float32Array.from(values), indices } };
}

/** One normal a point, the mean of its faces by their areas: no edge parts two. */
export const normalsJoined = (poly: PolyMesh): PolyMesh => ({
  ...poly,
  normals: smoothNormals(poly, new Uint32Array(poly.faceSizes.length).fill(1)),
});
