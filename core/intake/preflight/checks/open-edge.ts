import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { count, meshOffender, plural } from '../tell.ts';

export const openEdge: Check = {
  id: 'open-edge',
  group: 'shape',
  title: 'Open edges',
  why: 'Solid glass needs a closed body; light that enters through a hole never leaves.',
  threshold: CAUTION,
  run(scene) {
    const { materials } = scene.source;
    const offenders: Offender[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const glass = objects.filter(({ node }) =>
        node.parts.some(({ material: m }) => m >= 0 && materials[m].spec.transmission > 0 && !materials[m].thin),
      );
      const n = scene.topology(mesh).openEdges.length;
      if (n && glass.length) offenders.push(meshOffender(glass, n, `${plural(n, 'open edge')} on solid glass`));
    }
    return { expected: 'closed bodies of glass', found: count(offenders, 'mesh', 'meshes'), offenders };
  },
};
