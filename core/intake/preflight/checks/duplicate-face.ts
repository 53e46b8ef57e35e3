import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const duplicateFace: Check = {
  id: 'duplicate-face',
  group: 'shape',
  title: 'Duplicate faces',
  why: 'Two faces in one place flicker, and glass is entered twice.',
  threshold: CAUTION,
  run(scene) {
    const { offenders, meshes } = meshFaults(
      scene,
      ({ duplicates }) => duplicates,
      (n) => `${plural(n, 'face')} there twice`,
    );
    return {
      expected: 'none',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Remove the duplicates', scene.document, 'drop duplicates', meshes),
    };
  },
};
