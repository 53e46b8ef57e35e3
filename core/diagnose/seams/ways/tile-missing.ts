/** Islands lie in a tile that has no file. */
import { isTiled, missingTiles } from '../../../seams/fill-tiles.ts';
import { imagesOf, mended, type SeamInput, type Way } from '../way.ts';

/** Tiles that an image lacks under what wears it. */
export function lackingOf(input: SeamInput, texture: string): number[] {
  const image = input.state.assets.textures.get(texture)!;
  return isTiled(image) ? missingTiles(image, input.wearers(input.state, texture)) : [];
}

export const tileMissing: Way = {
  cause: 'seams.tile-missing',
  without(input) {
    const lacking = imagesOf(input).flatMap(({ texture }) => (lackingOf(input, texture).length > 0 ? [[texture, 0]] : [])); // prettier-ignore
    return lacking.length ? mended('fill tiles', input, Object.fromEntries(lacking) as Record<string, number>) : null;
  },
};
