import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const ngon: Check = {
  id: 'ngon',
  group: 'shape',
  title: 'Faces of many corners',
  why: 'Programs cut them into triangles each in their own way: shading and displacement differ.',
  threshold: CAUTION,
  run(scene) {
    const { offenders, meshes } = meshFaults(
      scene,
      ({ ngons }) => ngons,
      (n) => `${plural(n, 'face')} of more than four corners`,
    );
    return {
      expected: 'faces of three or four corners',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Cut them into triangles', scene.document, 'cut faces', meshes),
    };
  },
};
