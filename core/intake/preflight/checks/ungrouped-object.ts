import { type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const ungroupedObject: Check = {
  id: 'ungrouped-object',
  group: 'order',
  title: 'Ungrouped objects',
  why: 'Ungrouped objects are missed when a group is hidden, moved or handed over.',
  threshold: { caution: null, stop: null },
  run(scene) {
    const hasGroups = scene.source.nodes.some(({ parent }) => parent >= 0);
    if (!hasGroups) return 'the scene has no groups';
    const offenders = objectFaults(scene, ({ node }) => (node.parent < 0 ? 'stands outside all groups' : null));
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
