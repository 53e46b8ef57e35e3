/** Nothing is painted around the islands: what a filter reads over their borders is the background. */
import { padded } from '../../../seams/pad.ts';
import { imagesOf, withTexture, type SeamInput, type SeamState, type Way } from '../way.ts';

/** Beyond what the filter reads: the width of a mip is spread over the next coarser one too. */
const ROOM = 4;

/** Texels around islands that the filter reads: one for a bilinear one, as wide as an edge of the mesh for mips. */
export function paddingNeeded(input: SeamInput, texture: string): number {
  const own = imagesOf(input).find((image) => image.texture === texture)!;
  const widths = own.of.map(({ relief }) => {
    const { width, height } = relief.texture!;
    const { place } = relief.compiled;
    const grown = Math.max(Math.abs(place[0]) + Math.abs(place[1]), Math.abs(place[3]) + Math.abs(place[4]));
    const mip = relief.sampler.footprint * grown * Math.max(width, height);
    return relief.map.kind === 'image' && relief.map.filter === 'mip' ? Math.max(1, mip) : 1;
  });
  return Math.ceil(2 * Math.max(...widths)) + ROOM;
}

/** @param reach texels that are read across seams; all by default */
export function withPadding(input: SeamInput, state: SeamState, texture: string, reach?: number): SeamState {
  const image = state.assets.textures.get(texture)!;
  const shapes = input.wearers(state, texture);
  return withTexture(state, texture, padded(image, { shapes, texels: paddingNeeded(input, texture), reach }));
}

export const noPadding: Way = {
  cause: 'seams.no-padding',
  /** Dilated and no more: read across seams it would close what the two sides paint differently as well. */
  without(input) {
    const images = imagesOf(input);
    return images.length ? images.reduce((state, { texture }) => withPadding(input, state, texture, 0), input.state) : null; // prettier-ignore
  },
};
