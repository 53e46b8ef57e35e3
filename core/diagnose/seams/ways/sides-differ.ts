/** The map itself has other values on the two sides. What no other reason explains is this one. */
import { imagesOf, mended, type Way } from '../way.ts';

export const sidesDiffer: Way = {
  cause: 'seams.sides-differ',
  without(input) {
    const images = imagesOf(input).map(({ texture }) => [texture, 0]);
    return images.length ? mended('match', input, Object.fromEntries(images) as Record<string, number>) : null;
  },
};
