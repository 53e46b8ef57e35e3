import { type Check } from '../check.ts';
import { axisLengths } from '../scene.ts';
import { carryTransforms } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const transformLeftOnObject: Check = {
  id: 'transform-left-on-object',
  group: 'space',
  title: 'Scale left on objects',
  why: 'Bump depth, displacement and thickness stretch with an object that is scaled instead of its points.',
  threshold: { caution: null, stop: null },
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => {
      const lengths = axisLengths(node.local);
      return lengths.some((v) => Math.abs(v - 1) > 1e-4)
        ? `scaled by ${lengths.map((v) => +v.toPrecision(4)).join(', ')}`
        : null;
    });
    return {
      expected: 'objects without scale',
      found: count(offenders, 'object'),
      offenders,
      repair: carryTransforms('Scale their points instead', scene.document, offenders),
    };
  },
};
