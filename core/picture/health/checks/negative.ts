import { coloursOf } from '../../../formats/layers.ts';
import { litLayers, maskWhere, type HealthCheck } from '../check.ts';

/** Light below nothing: from filters with negative lobes, or from a conversion to narrower primaries. */
export const definition: HealthCheck = {
  id: 'negative',
  find(picture) {
    const below = litLayers(picture).flatMap((layer) =>
      (coloursOf(layer) ?? []).filter((name) => picture.of.get(name)!.negative > 0),
    );
    if (!below.length) return [];
    const worst = below.map((name) => picture.of.get(name)!).sort((a, b) => a.min - b.min)[0];
    const sentence = `${below.length} channels of light go below 0, ${worst.name} down to ${worst.min.toPrecision(3)} in ${worst.negative} pixels: filters with negative lobes (Mitchell, Lanczos) do that beside bright edges.`;
    return [{ severity: 'caution', sentence, channels: below }];
  },
  mask: (picture, { channels }) => maskWhere(picture, channels, (v) => v < 0),
};
