import { coloursOf } from '../../../formats/layers.ts';
import { litLayers, type HealthCheck } from '../check.ts';

export const definition: HealthCheck = {
  id: 'black-pass',
  find(picture) {
    return litLayers(picture).flatMap((layer) => {
      const names = coloursOf(layer);
      if (!names || names.some((name) => picture.of.get(name)!.max !== 0 || picture.of.get(name)!.min !== 0)) return [];
      return [{ severity: 'note' as const, sentence: `${layer.name || 'The beauty'} is black all over.`, channels: names }]; // prettier-ignore
    });
  },
};
