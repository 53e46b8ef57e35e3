import { coloursOf, layersOf, leafLayers, type Layer } from '../../../formats/layers.ts';
import { plainPlanes, type SteppedPlane, type Summands } from '../../plane-means.ts';
import { floatsOf, type HealthCheck, type HealthInput } from '../check.ts';

/** Whether the light passes add up to the beauty, each channel allowed half a step of its number format. */
export const definition: HealthCheck = {
  id: 'passes-add-up',
  find(picture) {
    const sum = summandsOf(picture, picture.layers);
    if (!sum) return [];
    const { names, channels } = sum;
    const { off: mask, worst, place } = picture.means.misfit(channels);
    const off = mask.reduce((all, is) => all + is, 0);
    if (off === 0)
      return [{ severity: 'note', sentence: `${names.length} light passes add up to the beauty in every pixel.`, channels: names }]; // prettier-ignore
    const told = `${names.slice(0, 6).join(', ')}${names.length > 6 ? ' …' : ''}`;
    const sentence = `${names.length} light passes (${told}) do not add up to the beauty in ${off} pixels, by up to ${worst.toPrecision(3)} at ${place % picture.width}, ${Math.floor(place / picture.width)}.`;
    return [{ severity: 'caution', sentence, channels: names }];
  },
  mask(picture) {
    const sum = summandsOf(picture, layersOf(picture.planes.keys()));
    return sum ? plainPlanes.misfit(sum.channels).off : new Uint8Array(picture.width * picture.height);
  },
};

function summandsOf({ planes, types }: HealthInput, layers: Layer[]): { names: string[]; channels: Summands[] } | null {
  const beauty = layers.find(({ role }) => role === 'beauty');
  const whole = beauty && coloursOf(beauty);
  const parts = leafLayers(layers.filter((layer) => layer.role === 'light' && coloursOf(layer)));
  if (!whole || parts.length < 2) return null;
  // Half a step of the format: of a value's last digit, and of the smallest there is.
  const stepped = (name: string): SteppedPlane => ({
    plane: floatsOf(planes.get(name)!),
    step: types.get(name) === 'half' ? { share: 2 ** -11, least: 2 ** -25 } : { share: 2 ** -23, least: 0 },
  });
  const channels = [0, 1, 2].map((c) => ({
    whole: stepped(whole[c]),
    parts: parts.map((part) => stepped(coloursOf(part)![c])),
  }));
  return { names: parts.map(({ name }) => name), channels };
}
