import { CAUTION, type Check } from '../check.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const degenerateFace: Check = {
  id: 'degenerate-face',
  group: 'shape',
  title: 'Zero-area faces',
  why: 'They have no normal: shading is undefined, and they cost rays for nothing.',
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
      repair: mendMeshes('Remove those faces', scene.document, 'drop degenerate', meshes),
    };
  },
};
