import { CAUTION, type Check } from '../check.ts';
import { isPlaceholder } from '../names.ts';
import { count, objectFaults } from '../tell.ts';

export const namePlaceholder: Check = {
  id: 'name-placeholder',
  group: 'order',
  title: 'Default names',
  why: 'Default names make objects hard to find and easy to link to the wrong light.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) =>
      isPlaceholder(node.name, scene.profile) ? `is called "${node.name}"` : null,
    );
    return { expected: 'descriptive names', found: count(offenders, 'object'), offenders };
  },
};
