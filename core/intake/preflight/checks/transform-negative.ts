import { CAUTION, type Check } from '../check.ts';
import { determinant } from '../../../data/transform.ts';
import { carryTransforms } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const transformNegative: Check = {
  id: 'transform-negative',
  group: 'space',
  title: 'Mirrored transforms',
  why: 'Mirroring turns faces inside out: in many renderers normals and single-sided surfaces face the other way.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) =>
      determinant(node.world) < 0 ? 'is mirrored by its transform' : null,
    );
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: carryTransforms('Mirror their points instead', scene.document, offenders),
    };
  },
};
