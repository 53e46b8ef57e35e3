import { coloursOf } from '../../../formats/layers.ts';
import { litLayers, type HealthCheck } from '../check.ts';

export const definition: HealthCheck = {
  id: 'black-pass',
  find(picture) {
    return litLayers(picture).flatMap((layer) => {
      const names = coloursOf(layer);
      const isBlack = (name: string) => {
        const { min, max, nan, infinite } = picture.of.get(name)!;
        // Of channels without one number nothing is said here.
        return min === 0 && max === 0 && nan + infinite < picture.width * picture.height;
      };
      if (!names?.every(isBlack)) return [];
      return [{ severity: 'note' as const, sentence: `${layer.name || 'The beauty'} is black all over.`, channels: names }]; // prettier-ignore
    });
  },
};
