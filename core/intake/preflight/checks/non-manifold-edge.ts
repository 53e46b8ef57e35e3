import { CAUTION, type Check } from '../check.ts';
import { count, meshFaults, plural } from '../tell.ts';

export const nonManifoldEdge: Check = {
  id: 'non-manifold-edge',
  group: 'shape',
  title: 'Edges of more than two faces',
  why: 'Inside and outside cannot be told apart there: glass fills wrongly, subdivision and displacement tear.',
  threshold: CAUTION,
  run(scene) {
    const { offenders } = meshFaults(
      scene,
      ({ nonManifoldEdges }) => nonManifoldEdges,
      (n) => `${plural(n, 'edge')} of more than two faces`,
    );
    return { expected: 'none', found: count(offenders, 'mesh', 'meshes'), offenders };
  },
};
