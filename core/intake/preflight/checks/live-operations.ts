import { CAUTION, type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const liveOperations: Check = {
  id: 'live-operations',
  group: 'shape',
  title: 'Unbaked deformers',
  why: 'Skinning, blend shapes and subdivision that are not evaluated leave the mesh in its rest pose.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.live.length ? node.live.join(', ') : null));
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
