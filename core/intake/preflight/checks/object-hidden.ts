import { CAUTION, type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const objectHidden: Check = {
  id: 'object-hidden',
  group: 'order',
  title: 'Hidden objects',
  why: 'Hidden things travel, take memory, and come back when somebody unhides all.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.visible ? null : 'is hidden'));
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
