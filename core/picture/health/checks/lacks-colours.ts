import { coloursOf } from '../../../formats/layers.ts';
import { litLayers, type HealthCheck } from '../check.ts';

/** A layer of light with some of its colours only: a channel was not written, or was lost on the way. */
export const definition: HealthCheck = {
  id: 'lacks-colours',
  find(picture) {
    return litLayers(picture).flatMap((layer) => {
      const has = (letter: string) =>
        layer.channels.some((name) => name.slice(name.lastIndexOf('.') + 1)[0].toLowerCase() === letter);
      const lost = coloursOf(layer) ? [] : ['r', 'g', 'b'].filter((letter) => !has(letter));
      if (lost.length === 0 || lost.length === 3) return [];
      const sentence = `${layer.name || 'The beauty'} has no ${lost.join(' and no ').toUpperCase().replace(' AND NO ', ' and no ')}.`;
      return [{ severity: 'caution' as const, sentence, channels: layer.channels }];
    });
  },
};
