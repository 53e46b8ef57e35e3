import { STOP, type Check } from '../check.ts';
import { determinant } from '../../../data/transform.ts';
import { axisLengths } from '../scene.ts';
import { count, objectFaults } from '../tell.ts';

export const transformZero: Check = {
  id: 'transform-zero',
  group: 'space',
  title: 'Zero scale',
  why: 'An object flattened to a plane, line or point has no inverse transform; most renderers drop it.',
  threshold: STOP,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) => {
      const lengths = axisLengths(node.world);
      const longest = Math.max(...lengths);
      return longest === 0 || Math.abs(determinant(node.world)) <= 1e-9 * longest ** 3
        ? `its axes are ${lengths.map((v) => +v.toPrecision(3)).join(', ')} long`
        : null;
    });
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
