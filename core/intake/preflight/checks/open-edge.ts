import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { withHolesClosed } from '../../../geometry/mend/close-holes.ts';
import { topologyOf } from '../../../geometry/topology.ts';
import { mendMeshes } from '../../repairs/offer.ts';
import { count, meshOffender, plural } from '../tell.ts';

export const openEdge: Check = {
  id: 'open-edge',
  group: 'shape',
  title: 'Open edges',
  why: 'Solid glass needs a closed mesh; light that enters through a hole never leaves.',
  threshold: CAUTION,
  run(scene) {
    const { materials } = scene.source;
    const offenders: Offender[] = [];
    const meshes: string[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const glass = objects.filter(({ node }) =>
        node.parts.some(({ material: m }) => m >= 0 && materials[m].spec.transmission > 0 && !materials[m].thin),
      );
      const n = scene.topology(mesh).openEdges.length;
      if (!n || !glass.length) continue;
      offenders.push(meshOffender(glass, n, `${plural(n, 'open edge')} on solid glass`));
      if (topologyOf(withHolesClosed(scene.source.meshes[mesh].poly)).openEdges.length === 0)
        meshes.push(scene.source.meshes[mesh].name);
    }
    return {
      expected: 'watertight glass',
      found: count(offenders, 'mesh', 'meshes'),
      offenders,
      repair: mendMeshes('Close the flat holes', scene.document, 'close holes', meshes),
    };
  },
};
