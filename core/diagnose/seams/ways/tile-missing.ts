/** Islands lie in a tile that has no file. */
import { isTiled, missingTiles, withTiles } from '../../../seams/fill-tiles.ts';
import { imagesOf, withTexture, type SeamInput, type SeamState, type Way } from '../way.ts';

/** Tiles that an image lacks under what wears it. */
export function lackingOf(input: SeamInput, texture: string): number[] {
  const image = input.state.assets.textures.get(texture)!;
  return isTiled(image) ? missingTiles(image, input.wearers(input.state, texture)) : [];
}

export const tileMissing: Way = {
  cause: 'seams.tile-missing',
  without(input) {
    const lacking = imagesOf(input).filter(({ texture }) => lackingOf(input, texture).length > 0);
    if (lacking.length === 0) return null;
    return lacking.reduce((state, { texture }): SeamState => {
      const image = state.assets.textures.get(texture)!;
      if (!isTiled(image)) return state;
      const wear = (next: typeof image) => input.wearers(withTexture(state, texture, next), texture);
      return withTexture(state, texture, withTiles(image, lackingOf(input, texture), (next) => wear(next as typeof image), texture)); // prettier-ignore
    }, input.state);
  },
};
