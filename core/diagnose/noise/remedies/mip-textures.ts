/** Mips, where texels are smaller than pixels. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { NoiseCase } from '../case.ts';
import { fineImages, mixed } from '../causes/fine-texture.ts';

export const mipTextures: Propose<NoiseCase> = (of) => {
  const images = of.kind === 'over' ? fineImages(of) : [];
  if (images.length === 0) return null;
  return {
    id: 'mip-textures',
    title: `Filter textures with mips in ${listed(images.map(([, name]) => name), 2)}`,
    change: { kind: 'values', values: mixed(images) },
    note: 'Where texels are smaller than pixels, the pattern averages out.',
  }; // prettier-ignore
};
