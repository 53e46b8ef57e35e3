import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const ngon: Check = {
  id: 'ngon',
  group: 'shape',
  title: 'N-gons',
  why: 'Programs triangulate n-gons in different ways, so shading and displacement differ.',
  threshold: CAUTION,
  run(scene) {
    const { offenders, meshes } = meshFaults(
      scene,
      ({ ngons }) => ngons,
      (n) => `${plural(n, 'face')} of more than four vertices`,
    );
    return {
      expected: 'triangles and quads',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Triangulate them', scene.document, 'cut faces', meshes),
    };
  },
};
