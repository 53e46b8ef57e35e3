import { type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const instanceCount: Check = {
  id: 'instance-count',
  group: 'weight',
  title: 'Instances',
  why: 'Each instance takes a place in the top-level tree and the scene graph, even where meshes are shared.',
  threshold: { caution: 100_000, stop: 2_000_000 },
  run(scene) {
    const shared = [...scene.objectsByMesh.values()].filter((objects) => objects.length > 1);
    const amount = shared.reduce((sum, objects) => sum + objects.length, 0);
    return {
      expected: 'few enough for the farm',
      found: plural(amount, 'instance'),
      amount,
      offenders: shared
        .sort((a, b) => b.length - a.length)
        .slice(0, 10)
        .map((objects) => ({
          object: objects[0].node.path,
          detail: `and ${plural(objects.length - 1, 'copy', 'copies')}`,
          count: objects.length,
        })),
    };
  },
};
