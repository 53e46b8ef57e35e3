import { STOP, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { count, meshOffender, plural } from '../tell.ts';

export const positionNotFinite: Check = {
  id: 'position-not-finite',
  group: 'space',
  title: 'NaN positions',
  why: 'NaN in a point or transform breaks bounding boxes, acceleration structures and pictures.',
  threshold: STOP,
  run(scene) {
    const offenders: Offender[] = [];
    for (const [mesh, objects] of scene.objectsByMesh) {
      const n = scene.source.meshes[mesh].poly.points.reduce((sum, v) => sum + Number(!Number.isFinite(v)), 0);
      if (n) offenders.push(meshOffender(objects, n, `${plural(n, 'coordinate')} of its points are NaN or infinite`));
    }
    for (const { path, local } of scene.source.nodes)
      if (!local.every(Number.isFinite))
        offenders.push({ object: path, detail: 'its transform contains NaN or infinity', count: 1 });
    return { expected: 'finite numbers', found: count(offenders, 'object'), offenders };
  },
};
