import { CAUTION, type Check } from '../check.ts';
import { axisLengths } from '../scene.ts';
import { carryTransforms } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

/** Beyond this, or below its inverse, a scale is no matter of taste but of units. */
const FAR_OFF = 100;

export const transformLeftOnObject: Check = {
  id: 'transform-left-on-object',
  group: 'space',
  title: 'Scale left on objects',
  why: 'Bump depth, displacement and thickness stretch with an object that is scaled instead of its points. A hundredfold is a matter of units.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => {
      const lengths = axisLengths(node.local);
      return lengths.some((v) => Math.abs(v - 1) > 1e-4)
        ? `scaled by ${lengths.map((v) => +v.toPrecision(4)).join(', ')}`
        : null;
    });
    const isFarOff = (v: number) => v > 0 && Math.abs(Math.log(v)) >= Math.log(FAR_OFF) - 1e-9;
    const amount = scene.objects.filter(({ node }) => axisLengths(node.local).some(isFarOff)).length;
    return {
      amount,
      expected: 'objects without scale',
      found: count(offenders, 'object'),
      offenders,
      repair: carryTransforms('Scale their points instead', scene.document, offenders),
    };
  },
};
