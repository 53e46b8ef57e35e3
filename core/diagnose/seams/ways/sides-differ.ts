/** The map itself has other values on the two sides. What no other reason explains is this one. */
import { matched } from '../../../seams/match-sides.ts';
import { imagesOf, withTexture, type Way } from '../way.ts';

export const sidesDiffer: Way = {
  cause: 'seams.sides-differ',
  without(input) {
    const images = imagesOf(input);
    if (images.length === 0) return null;
    return images.reduce((state, { texture }) => withTexture(state, texture, matched(state.assets.textures.get(texture)!, input.wearers(state, texture))), input.state); // prettier-ignore
  },
};
