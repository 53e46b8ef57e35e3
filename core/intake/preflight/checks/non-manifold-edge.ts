import { CAUTION, type Check } from '../check.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const nonManifoldEdge: Check = {
  id: 'non-manifold-edge',
  group: 'shape',
  title: 'Non-manifold edges',
  why: 'Inside and outside are ambiguous there: glass fills wrongly; subdivision and displacement tear.',
  threshold: CAUTION,
  run(scene) {
    const { offenders } = meshFaults(
      scene,
      ({ nonManifoldEdges }) => nonManifoldEdges,
      (n) => plural(n, 'non-manifold edge'),
    );
    return { expected: 'none', found: count(offenders, 'mesh', 'meshes'), offenders };
  },
};
