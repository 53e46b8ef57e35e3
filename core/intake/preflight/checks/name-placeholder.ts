import { CAUTION, type Check } from '../check.ts';
import { isPlaceholder } from '../names.ts';
import { count, objectFaults } from '../tell.ts';

export const namePlaceholder: Check = {
  id: 'name-placeholder',
  group: 'order',
  title: 'Names that nobody chose',
  why: 'Nobody finds an object called after its kind and a number, nor links a light to the right one.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, ({ node }) =>
      isPlaceholder(node.name, scene.profile) ? `is called "${node.name}"` : null,
    );
    return { expected: 'names that say what it is', found: count(offenders, 'object'), offenders };
  },
};
