import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshOffender, plural } from '../tell.ts';

export const badNormals: Check = {
  id: 'bad-normals',
  group: 'shape',
  title: 'Invalid normals',
  why: 'Zero-length or NaN normals render as black spots.',
  threshold: CAUTION,
  run(scene) {
    const offenders: Offender[] = [];
    const meshes: string[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const { normals } = objects[0].poly;
      if (!normals) continue;
      let n = 0;
      for (let i = 0; i + 2 < normals.values.length; i += 3) {
        const length = Math.hypot(normals.values[i], normals.values[i + 1], normals.values[i + 2]);
        if (!(length > 0.5 && length < 2)) n += 1;
      }
      if (!n) continue;
      offenders.push(meshOffender(objects, n, `${plural(n, 'normal')} not of length 1`));
      meshes.push(scene.source.meshes[mesh].name);
    }
    return {
      expected: 'length 1',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Recompute them', scene.document, 'mend normals', meshes),
    };
  },
};
