/** Mirrors that blur as much as a texel is wide, until an image with more texels is there. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { LightingCase } from '../definition.ts';

export const blurMirrors: Propose<LightingCase> = (of) => {
  if (of.kind !== 'coarse' || of.materials.length === 0) return null;
  const { materials, roughness, objects } = of;
  return {
    id: 'roughness',
    title: `Roughness ${roughness}: ${listed(objects)} ${objects.length === 1 ? 'blurs' : 'blur'} as much as a texel is wide`,
    change: {
      kind: 'values',
      values: Object.fromEntries(materials.map((id) => [`/materials/${id}/roughness`, roughness])),
    },
  };
};
