import { CAUTION, type Check } from '../check.ts';
import { idsOf, leaveOut } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const objectHidden: Check = {
  id: 'object-hidden',
  group: 'order',
  title: 'Hidden objects',
  why: 'Hidden things travel, take memory, and come back when somebody unhides all.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.visible ? null : 'is hidden'));
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: leaveOut('Leave them out of the shot', scene.document, idsOf(offenders)),
    };
  },
};
