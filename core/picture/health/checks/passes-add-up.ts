import { coloursOf, layersOf, leafLayers, type Layer } from '../../../formats/layers.ts';
import type { HealthCheck, HealthInput } from '../check.ts';

/** Whether the light passes add up to the beauty, each channel allowed half a step of its number format. */
export const definition: HealthCheck = {
  id: 'passes-add-up',
  find(picture) {
    const sum = sumOf(picture, picture.layers);
    if (!sum) return [];
    const { names, off, worst, place } = sum;
    if (off === 0)
      return [{ severity: 'note', sentence: `${names.length} light passes add up to the beauty in every pixel.`, channels: names }]; // prettier-ignore
    const told = `${names.slice(0, 6).join(', ')}${names.length > 6 ? ' …' : ''}`;
    const sentence = `${names.length} light passes (${told}) do not add up to the beauty in ${off} pixels, by up to ${worst.toPrecision(3)} at ${place % picture.width}, ${Math.floor(place / picture.width)}.`;
    return [{ severity: 'caution', sentence, channels: names }];
  },
  mask(picture) {
    const mask = new Uint8Array(picture.width * picture.height);
    sumOf(picture, layersOf(picture.planes.keys()), mask);
    return mask;
  },
};

function sumOf({ planes, types }: HealthInput, layers: Layer[], mask: Uint8Array | null = null) {
  const beauty = layers.find(({ role }) => role === 'beauty');
  const whole = beauty && coloursOf(beauty);
  const parts = leafLayers(layers.filter((layer) => layer.role === 'light' && coloursOf(layer)));
  if (!whole || parts.length < 2) return null;
  let worst = 0;
  let place = 0;
  // Half a step of the format: of a value's last digit, and of the smallest there is.
  const stepOf = (name: string) =>
    types.get(name) === 'half' ? { share: 2 ** -11, least: 2 ** -25 } : { share: 2 ** -23, least: 0 };
  const channels = [0, 1, 2].map((c) => ({
    beauty: planes.get(whole[c])!,
    beautyStep: stepOf(whole[c]),
    parts: parts.map((part) => ({ plane: planes.get(coloursOf(part)![c])!, step: stepOf(coloursOf(part)![c]) })),
  }));
  const pixels = channels[0].beauty.length;
  const off = new Uint8Array(pixels);
  // Plane by plane: what is read one after the other stands one after the other.
  const sum = new Float64Array(pixels);
  const allowed = new Float64Array(pixels);
  for (const { beauty: wanted, beautyStep, parts: own } of channels) {
    for (let i = 0; i < pixels; i++) {
      sum[i] = 0;
      allowed[i] = Math.max(beautyStep.least, Math.abs(wanted[i]) * beautyStep.share);
    }
    for (const { plane, step } of own) {
      const { share, least } = step;
      for (let i = 0; i < pixels; i++) {
        sum[i] += plane[i];
        allowed[i] += Math.max(least, Math.abs(plane[i]) * share);
      }
    }
    for (let i = 0; i < pixels; i++) {
      const difference = Math.abs(sum[i] - wanted[i]);
      if (!(difference > allowed[i] * 1.01)) continue;
      off[i] = 1;
      if (difference > worst || (difference === worst && i < place)) [worst, place] = [difference, i];
    }
  }
  if (mask) mask.set(off);
  return { names: parts.map(({ name }) => name), off: off.reduce((all, is) => all + is, 0), worst, place };
}
