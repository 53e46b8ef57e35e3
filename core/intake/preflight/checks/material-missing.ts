import { STOP, type Check } from '../check.ts';
import { count, objectFaults } from '../tell.ts';

export const materialMissing: Check = {
  id: 'material-missing',
  group: 'surface',
  title: 'Missing materials',
  why: 'An object without a material is rendered plain grey.',
  threshold: STOP,
  run(scene) {
    const { materials } = scene.source;
    const offenders = objectFaults(scene, ({ node }) => {
      const lacking = node.parts.filter(({ material }) => material < 0 || materials[material].missing);
      if (lacking.length === 0) return null;
      const names = lacking.map(({ material }) =>
        material < 0 ? 'none' : `"${materials[material].name}", which is not there`,
      );
      return `its material is ${[...new Set(names)].join(', ')}`;
    });
    return { expected: 'every object has one', found: count(offenders, 'object'), offenders };
  },
};
