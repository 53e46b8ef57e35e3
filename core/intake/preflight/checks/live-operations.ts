import { CAUTION, type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const liveOperations: Check = {
  id: 'live-operations',
  group: 'shape',
  title: 'Operations not baked in',
  why: 'Skins, blend shapes and subdivision that nobody carries out leave the mesh in its rest shape.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.live.length ? node.live.join(', ') : null));
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
