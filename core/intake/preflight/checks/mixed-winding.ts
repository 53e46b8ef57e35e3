import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const mixedWinding: Check = {
  id: 'mixed-winding',
  group: 'shape',
  title: 'Inconsistent face orientation',
  why: 'Neighbours that face opposite ways shade with a hard edge between them, and break solid glass.',
  threshold: CAUTION,
  run(scene) {
    const { offenders, meshes } = meshFaults(
      scene,
      ({ mixedEdges }) => mixedEdges,
      (n) => `${plural(n, 'edge')} between faces that turn opposite ways`,
    );
    return {
      expected: 'none',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Make the orientation consistent', scene.document, 'turn outwards', meshes),
    };
  },
};
