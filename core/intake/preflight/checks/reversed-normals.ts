import { CAUTION, type Check } from '../check.ts';
import { faceNormal, faceStarts, type PolyMesh } from '../../../data/poly-mesh.ts';
import type { Offender } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshOffender, plural } from '../tell.ts';

export const reversedNormals: Check = {
  id: 'reversed-normals',
  group: 'shape',
  title: 'Reversed normals',
  why: 'Surfaces shade as if lit from behind; single-sided ones vanish; glass takes inside for outside.',
  threshold: CAUTION,
  run(scene) {
    const offenders: Offender[] = [];
    const meshes: string[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const { poly } = objects[0];
      const { openEdges, nonManifoldEdges, mixedEdges, volume } = scene.topology(mesh);
      const isClosed = openEdges.length + nonManifoldEdges.length + mixedEdges.length === 0;
      const before = offenders.length;
      // A room is looked at from inside, and is right so.
      const isRoom = isClosed && volume < 0 && objects.some((object) => scene.isRoom(object));
      if (isRoom) continue;
      if (isClosed && volume < 0)
        offenders.push(meshOffender(objects, poly.faceSizes.length, 'a closed body turned inside out'));
      else {
        const n = againstFaces(poly);
        // An open shell has no outside: all against all is the other side of it.
        if (n && !(openEdges.length > 0 && n === poly.corners.length))
          offenders.push(meshOffender(objects, n, `${plural(n, 'corner')} with a normal against its face`));
      }
      if (offenders.length > before) meshes.push(scene.source.meshes[mesh].name);
    }
    return {
      expected: 'outwards',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Turn them outwards', scene.document, 'turn outwards', meshes),
    };
  },
};

/** Corners whose normal points to the other side of their face. */
function againstFaces(poly: PolyMesh): number {
  const { normals, faceSizes } = poly;
  if (!normals) return 0;
  const starts = faceStarts(poly);
  let n = 0;
  for (let f = 0; f < faceSizes.length; f++) {
    const [x, y, z] = faceNormal(poly, starts[f], faceSizes[f]);
    for (let k = starts[f]; k < starts[f] + faceSizes[f]; k++) {
      const i = normals.indices[k] * 3;
      if (x * normals.values[i] + y * normals.values[i + 1] + z * normals.values[i + 2] < 0) n += 1;
    }
  }
  return n;
}
