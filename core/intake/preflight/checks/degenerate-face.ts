import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const degenerateFace: Check = {
  id: 'degenerate-face',
  group: 'shape',
  title: 'Faces without area',
  why: 'They have no normal: shading on them is undefined, and they cost rays for nothing.',
  threshold: CAUTION,
  run(scene) {
    const { offenders, meshes } = meshFaults(
      scene,
      ({ degenerate }) => degenerate,
      (n) => `${plural(n, 'face')} without area`,
    );
    return {
      expected: 'none',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Leave those faces out', scene.document, 'drop degenerate', meshes),
    };
  },
};
