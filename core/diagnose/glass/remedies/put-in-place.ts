/** The map where it tints; a floor that is there. */
import type { Propose } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

export const putInPlace: Propose<GlassCase> = (of) => {
  if (of.kind === 'opacity') {
    const at = `/materials/${of.material.id}`;
    return {
      id: 'to-colour',
      title: `${of.map.name} as the base colour of ${of.material.name}`,
      change: { kind: 'values', values: { [`${at}/baseColourMap`]: of.map.id, [`${at}/alphaMap`]: null, [`${at}/alphaMode`]: 'opaque' } }, // prettier-ignore
      note: 'Glass is filtered by its base colour at each face.',
    };
  }
  if (of.kind !== 'floor') return null;
  return {
    id: 'real-floor',
    title: `${of.name} as an ordinary surface`,
    change: { kind: 'values', values: { [`/objects/${of.id}/role`]: 'surface' } },
    note: 'It needs a material that looks like what it stands for.',
  };
};
