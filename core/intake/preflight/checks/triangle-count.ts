import { type Check } from '../check.ts';
import { meshOffender, plural } from '../tell.ts';

export const triangleCount: Check = {
  id: 'triangle-count',
  group: 'weight',
  title: 'Triangles',
  why: 'Triangles take memory: about 65 bytes each while rendering, shared by all instances of a mesh.',
  threshold: { caution: 5_000_000, stop: 50_000_000 },
  run(scene) {
    const each = [...scene.objectsByMesh].map(([mesh, objects]) => {
      const { faceSizes } = scene.source.meshes[mesh].poly;
      return { objects, triangles: faceSizes.reduce((sum, size) => sum + Math.max(0, size - 2), 0) };
    });
    const amount = each.reduce((sum, { triangles }) => sum + triangles, 0);
    const heaviest = each.sort((a, b) => b.triangles - a.triangles).slice(0, 10);
    return {
      expected: 'as few as the picture needs',
      found: plural(amount, 'triangle'),
      amount,
      offenders: heaviest.map(({ objects, triangles }) =>
        meshOffender(objects, triangles, plural(triangles, 'triangle')),
      ),
    };
  },
};
