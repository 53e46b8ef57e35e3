import { CAUTION, type Check } from '../check.ts';
import { idsOf, leaveOut } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const objectHidden: Check = {
  id: 'object-hidden',
  group: 'order',
  title: 'Hidden objects',
  why: 'Hidden objects travel along, take memory, and come back when somebody unhides everything.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => (node.visible ? null : 'is hidden'));
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: leaveOut('Remove them from the shot', scene.document, idsOf(offenders)),
    };
  },
};
