import { spacing } from '../../../data/float32.ts';
import { faceStarts, type PolyMesh } from '../../../data/poly-mesh.ts';
import { centrePivots } from '../../repairs/offer.ts';
import { CAUTION, type Check, type Offender } from '../check.ts';
import { count, meshOffender, metres } from '../tell.ts';

/** Share of its fine edges that a step may be: beyond it bevels and thin gaps lose their shape. */
const COARSE = 0.02;
/** Edges that are looked at, about, and which of them are fine. */
const EDGES = 20_000;
const FINE = 0.05;

export const offsetInVertices: Check = {
  id: 'offset-in-vertices',
  group: 'space',
  title: 'Offset in vertices',
  why: 'Vertices have 32 bits: far from the object’s own origin they are too coarse for its edges, wherever the object stands.',
  threshold: CAUTION,
  run(scene) {
    const offenders: Offender[] = [];
    const far: Offender[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const { min, max } = scene.boundsOf(mesh);
      const away = Math.max(...min.map((v, a) => Math.max(Math.abs(v), Math.abs(max[a]))));
      const edge = fineEdge(objects[0].poly);
      const step = spacing(away);
      if (!(step > COARSE * edge)) continue;
      offenders.push(meshOffender(objects, 1, `vertices ${metres(away)} from its origin, in steps of ${metres(step)}; its fine edges are ${metres(+edge.toPrecision(3))}`)); // prettier-ignore
      far.push(...objects.map(({ node }) => ({ object: node.path, detail: '', count: 1 })));
    }
    return {
      expected: 'vertices about the origin of their object',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: centrePivots('Move their origins to the centre of their vertices', scene.document, far),
    };
  },
};

/** Length that 5 % of the edges are shorter than; Infinity where there are none. */
function fineEdge(poly: PolyMesh): number {
  const { points, corners, faceSizes } = poly;
  const starts = faceStarts(poly);
  const step = Math.max(1, Math.floor(corners.length / EDGES));
  const lengths: number[] = [];
  for (let f = 0; f < faceSizes.length; f += step)
    for (let k = 0; k < faceSizes[f]; k++) {
      const [p, q] = [corners[starts[f] + k] * 3, corners[starts[f] + ((k + 1) % faceSizes[f])] * 3];
      const length = Math.hypot(points[p] - points[q], points[p + 1] - points[q + 1], points[p + 2] - points[q + 2]);
      if (length > 0) lengths.push(length);
    }
  return lengths.length ? lengths.sort((a, b) => a - b)[Math.floor(FINE * lengths.length)] : Infinity;
}
