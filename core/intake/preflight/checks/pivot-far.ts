import { centrePivots } from '../../repairs/offer.ts';
import { CAUTION, type Check } from '../check.ts';
import { count, metres, objectFaults } from '../tell.ts';

/** Times its size that an object's vertices may be from its pivot. */
const FAR = 100;

export const pivotFar: Check = {
  id: 'pivot-far',
  group: 'space',
  title: 'Pivot far away',
  why: 'An object rotates and scales about its pivot: a degree moves one that is 100 times its size away by nearly twice its size.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ mesh }) => {
      const { min, max } = scene.boundsOf(mesh);
      const size = Math.hypot(...min.map((v, a) => max[a] - v));
      const away = Math.hypot(...min.map((v, a) => (v + max[a]) / 2));
      return size > 0 && away > FAR * size ? `${metres(+away.toPrecision(3))} from its pivot, and ${metres(+size.toPrecision(3))} large` : null; // prettier-ignore
    });
    return {
      expected: `within ${FAR} times its size`,
      found: count(offenders, 'object'),
      offenders,
      repair: centrePivots('Move their pivots to the centre of their vertices', scene.document, offenders),
    };
  },
};
