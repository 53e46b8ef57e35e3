import { faceStarts, type PolyMesh } from '../../../data/poly-mesh.ts';
import { CAUTION, type Check, type Offender } from '../check.ts';
import { count } from '../tell.ts';

/** Times as long as wide that a texel is on the surface, the median by area, from which on it is seen. */
const STRETCHED = 8;

export const uvStretched: Check = {
  id: 'uv-stretched',
  group: 'surface',
  title: 'Stretched UVs',
  why: 'What is drawn on the image is drawn out on the surface, and its detail is lost in one direction.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    for (const { texture, objects } of scene.worn) {
      const header = scene.header(texture.image);
      if (!header?.width || !header.height) continue;
      const texels = [header.width * Math.abs(texture.scale[0]), header.height * Math.abs(texture.scale[1])];
      for (const { node, poly } of objects) {
        const stretch = stretchOf(poly, texture.uvSet, texels);
        if (stretch < STRETCHED || offenders.has(node.path)) continue;
        const detail = `texels of ${scene.imageName(texture.image)} are ${stretch.toFixed(0)} times as long as wide`;
        offenders.set(node.path, { object: node.path, detail, count: 1 });
      }
    }
    const all = [...offenders.values()];
    return { expected: 'texels about as long as wide', found: count(all, 'object'), offenders: all };
  },
};

/**
 * The ratio of the longest to the shortest way across a texel on the surface: of the singular values of texels → surface. The
 * median of faces by their area; 1 where there are no UVs.
 */
function stretchOf(poly: PolyMesh, set: number, [across, up]: number[]): number {
  const layer = poly.uvs[set];
  if (!layer) return 1;
  const starts = faceStarts(poly);
  const { points, corners } = poly;
  const faces: { ratio: number; area: number }[] = [];
  poly.faceSizes.forEach((size, f) => {
    if (size < 3) return;
    const at = [0, 1, size - 1].map((k) => starts[f] + k);
    const edge = (of: (c: number, a: number) => number, k: number, axes: number) => Array.from({ length: axes }, (_, a) => of(at[k], a) - of(at[0], a)); // prettier-ignore
    const place = (c: number, a: number) => points[3 * corners[c] + a];
    const texel = (c: number, a: number) => layer.values[2 * layer.indices[c] + a] * (a ? up : across);
    const [p, q] = [edge(place, 1, 3), edge(place, 2, 3)];
    const [s, t] = [edge(texel, 1, 2), edge(texel, 2, 2)];
    const determinant = s[0] * t[1] - s[1] * t[0];
    if (determinant === 0) return;
    const [u, v] = [[t[1], -s[1]], [-t[0], s[0]]].map(([a, b]) => p.map((value, k) => (value * a + q[k] * b) / determinant)); // prettier-ignore
    const dot = (x: number[], y: number[]) => x.reduce((sum, value, k) => sum + value * y[k], 0);
    const [uu, vv, uv] = [dot(u, u), dot(v, v), dot(u, v)];
    const root = Math.sqrt((uu - vv) ** 2 + 4 * uv * uv);
    const area = Math.sqrt(Math.max(0, dot(p, p) * dot(q, q) - dot(p, q) ** 2));
    if (area > 0) faces.push({ ratio: Math.sqrt((uu + vv + root) / Math.max(uu + vv - root, 1e-30)), area });
  });
  faces.sort((a, b) => a.ratio - b.ratio);
  let left = faces.reduce((sum, { area }) => sum + area, 0) / 2;
  for (const { ratio, area } of faces) if ((left -= area) <= 0) return ratio;
  return 1;
}
