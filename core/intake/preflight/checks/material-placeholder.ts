import { CAUTION, type Check } from '../check.ts';
import { defaultMaterial } from '../../../document/defaults.ts';
import { isPlaceholder } from '../names.ts';
import { count } from '../tell.ts';

const PLAIN = JSON.stringify(defaultMaterial());

export const materialPlaceholder: Check = {
  id: 'material-placeholder',
  group: 'surface',
  title: 'Placeholder materials',
  why: 'A material with no name and no look of its own was probably forgotten.',
  threshold: CAUTION,
  run(scene) {
    const { source } = scene;
    const offenders = source.materials.flatMap((material, m) => {
      if (material.missing) return [];
      const wearers = scene.objects.filter(({ node }) => node.parts.some((part) => part.material === m));
      const look = JSON.stringify({ ...material.spec, name: '' });
      const isPlain = material.textures.length === 0 && look === PLAIN;
      const isUnnamed = isPlaceholder(material.name, scene.profile);
      if (wearers.length === 0 || !(isPlain || isUnnamed)) return [];
      const what = isPlain ? 'has the settings of a new material' : 'has a default name';
      return [
        {
          object: material.name || 'unnamed material',
          detail: `${what}; on ${wearers[0].node.path}${wearers.length > 1 ? ` and ${wearers.length - 1} more` : ''}`,
          count: wearers.length,
        },
      ];
    });
    return { expected: 'none', found: count(offenders, 'material'), offenders };
  },
};
