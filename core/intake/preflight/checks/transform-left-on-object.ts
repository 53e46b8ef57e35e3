import { CAUTION, type Check } from '../check.ts';
import { axisLengths } from '../scene.ts';
import { carryTransforms } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

/** Beyond this, or below its inverse, a scale is no matter of taste but of units. */
const FAR_OFF = 100;

export const transformLeftOnObject: Check = {
  id: 'transform-left-on-object',
  group: 'space',
  title: 'Unapplied scale',
  why: 'Bump depth, displacement and thickness stretch with the object’s scale. A factor of 100 suggests wrong units.',
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
      expected: 'scale applied',
      found: count(offenders, 'object'),
      offenders,
      repair: carryTransforms('Scale their points instead', scene.document, offenders),
    };
  },
};
