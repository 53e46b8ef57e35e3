/**
 * Images that are looked up texel by texel where texels are smaller than pixels: each sample meets another colour. Mips mix
 * them beforehand. Source: Williams, "Pyramidal Parametrics", 1983.
 */
import type { ShotDocument } from '../../../document/schema.ts';
import type { ControlValues } from '../../../document/set-values.ts';
import type { Cause } from '../../family.ts';
import type { NoiseCase, OverCase } from '../case.ts';
import { texelsAPixel } from '../texel-size.ts';

/** Images that are not mixed by mips, by key. */
const sharpImages = ({ maps }: ShotDocument): [id: string, name: string][] =>
  Object.entries(maps).flatMap(([id, map]) =>
    map.kind === 'image' && map.filter !== 'mip' ? [[id, map.name || id]] : [],
  );

export const mixed = (images: [string, string][]): ControlValues =>
  Object.fromEntries(images.map(([id]) => [`/maps/${id}/filter`, 'mip']));

/** Images whose texels are smaller than pixels here. Those that are wider are meant to be seen, as in pixel art: mips would only blur them. */
export const fineImages = ({ input, region }: OverCase): [id: string, name: string][] =>
  sharpImages(input.document).filter(([id]) => (texelsAPixel(input, region, id) ?? Infinity) > 1);

export const fineTexture: Cause<NoiseCase> = {
  id: 'noise.fine-texture',
  without(of) {
    const images = of.kind === 'over' ? fineImages(of) : [];
    return images.length > 0 ? mixed(images) : null;
  },
};
