import { findFireflies } from '../../fireflies.ts';
import { coloursOf, layersOf } from '../../../formats/layers.ts';
import { plainPlanes, type PlaneMeans } from '../../plane-means.ts';
import { luminanceBy, type HealthCheck, type HealthInput } from '../check.ts';

/** Single pixels far above their surroundings, from light that was found by chance. */
export const definition: HealthCheck = {
  id: 'fireflies',
  find(picture) {
    const found = fireflies(picture, picture.means);
    if (!found?.pixels.length) return [];
    const held = found.energy >= 0.005 ? ` and hold ${Math.round(found.energy * 100)} % of the light` : '';
    const [{ stops }] = [...found.pixels].sort((a, b) => b.stops - a.stops);
    const sentence = `${found.pixels.length === 1 ? 'One pixel stands' : `${found.pixels.length} pixels stand`} out as fireflies, up to ${stops.toFixed(1)} stops above their surroundings${held}.`;
    return [{ severity: 'caution', sentence, channels: found.channels }];
  },
  mask: (picture) => fireflies(picture, plainPlanes)?.mask ?? new Uint8Array(picture.width * picture.height),
};

function fireflies({ planes, width, height }: HealthInput, means: PlaneMeans) {
  const layers = layersOf(planes.keys());
  const beauty = layers.find(({ role }) => role === 'beauty');
  const channels = beauty && coloursOf(beauty);
  if (!channels) return null;
  const albedo = layers
    .map((layer) => (/albedo/i.test(layer.name) ? coloursOf(layer) : null))
    .find((one) => one !== null);
  const luminance = luminanceBy(means, channels, planes);
  return {
    channels,
    ...findFireflies({ luminance, width, height, albedo: albedo ? luminanceBy(means, albedo, planes) : null }),
  };
}
