import { item, type Limit } from '../limit.ts';
import { mendMeshes } from '../../repairs/offer.ts';

export const sides: Limit = {
  id: 'sides',
  title: 'Single-sided surfaces',
  run({ document, scene, target }) {
    if (target.sides === 'both') return null;
    const values: Record<string, unknown> = {};
    const turn: string[] = [];
    const items = scene.objects.flatMap(({ node, mesh }) => {
      const id = node.path.slice(1);
      if (document.objects[id].facing !== 'both') return [];
      const { openEdges, mixedEdges, volume, nonManifoldEdges } = scene.topology(mesh);
      const isClosed = openEdges.length + nonManifoldEdges.length === 0;
      if (isClosed && mixedEdges.length === 0 && volume > 0) return [];
      values[`/objects/${id}/facing`] = 'front';
      if (mixedEdges.length || isClosed) turn.push(scene.source.meshes[mesh].name);
      const why = mixedEdges.length ? 'faces that look both ways' : isClosed ? 'faces that look inwards' : 'a sheet that can be seen from behind'; // prettier-ignore
      return [item(node.path, why)];
    });
    return items.length
      ? {
          fate: 'dropped',
          items,
          looks: 'From behind they are invisible, or lose their texture.',
          values,
          repair: mendMeshes('Turn the faces of closed meshes outwards', document, 'turn outwards', [...new Set(turn)]),
        }
      : null;
  },
};
