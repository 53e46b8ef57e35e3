/** Mirrors that blur as much as a texel is wide, until an image with more texels is there. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { CoarseCase } from '../environment.ts';

export const blurMirrors: Propose<CoarseCase> = ({ materials, roughness, objects }) =>
  materials.length === 0
    ? null
    : {
        id: 'roughness',
        title: `Roughness ${roughness}: ${listed(objects)} ${objects.length === 1 ? 'blurs' : 'blur'} as much as a texel is wide`,
        change: {
          kind: 'values',
          values: Object.fromEntries(materials.map((id) => [`/materials/${id}/roughness`, roughness])),
        },
      };
