/** Points moved so that the middle of their bounds is the origin. */
import type { Triple } from '../../data/placement.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';

/**
 * @returns the mesh, and where its origin now stands in the space of the old one. Differences of neighbouring 32-bit numbers
 *   are exact (Sterbenz 1974), so that points keep their distances to the last bit where they lie close to the middle.
 * @example
 * const { poly, centre } = centred(jar); // stands at transform × translation(centre) as jar did at transform
 */
export function centred(poly: PolyMesh): { poly: PolyMesh; centre: Triple } {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < poly.points.length; i++) {
    const a = i % 3;
    if (poly.points[i] < min[a]) min[a] = poly.points[i];
    if (poly.points[i] > max[a]) max[a] = poly.points[i];
  }
  const centre = min.map((v, a) => Math.fround((v + max[a]) / 2)) as Triple;
  return { poly: { ...poly, points: poly.points.map((v, i) => v - centre[i % 3]) }, centre };
}
