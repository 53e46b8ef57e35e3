import { CAUTION, type Check } from '../check.ts';
import { axisLengths } from '../scene.ts';
import { carryTransforms } from '../../repairs/offer.ts';
import { count, objectFaults } from '../tell.ts';

export const transformSheared: Check = {
  id: 'transform-sheared',
  group: 'space',
  title: 'Sheared transforms',
  why: 'Shear is lost when a transform is split into translate, rotate and scale; other programs show the object differently.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node: { world: m } }) => {
      const lengths = axisLengths(m);
      if (lengths.some((v) => !(v > 0))) return null;
      const cosine = (a: number, b: number) =>
        Math.abs(m[a * 4] * m[b * 4] + m[a * 4 + 1] * m[b * 4 + 1] + m[a * 4 + 2] * m[b * 4 + 2]) /
        (lengths[a] * lengths[b]);
      const most = Math.max(cosine(0, 1), cosine(1, 2), cosine(0, 2));
      return most > 1e-4
        ? `its axes lean by ${((Math.asin(Math.min(1, most)) * 180) / Math.PI).toPrecision(3)}°`
        : null;
    });
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: carryTransforms('Shear their points instead', scene.document, offenders),
    };
  },
};
