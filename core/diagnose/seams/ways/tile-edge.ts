/** An island reaches the edge of its image, where the filter wraps to the opposite edge. */
import { imagesOf, type Way } from '../way.ts';

export const tileEdge: Way = {
  cause: 'seams.tile-edge',
  values(input) {
    const { document, assets } = input.state;
    const maps = imagesOf(input)
      .filter(({ texture, of }) => !assets.textures.get(texture)!.tiles && of.every(isInside))
      .flatMap((image) => image.maps)
      .filter((id) => (document.maps[id] as { wrap?: string }).wrap === 'repeat');
    return maps.length ? Object.fromEntries(maps.map((id) => [`/maps/${id}/wrap`, 'clamp'])) : null;
  },
};

/** Nothing of the shape lies where the image repeats. */
function isInside({ texels, relief }: Parameters<typeof imagesOf>[0]['shapes'][number]): boolean {
  const { width, height } = relief.texture!;
  const slack = 1e-4;
  return texels!.every((at, i) => at >= -slack * width && at <= (i & 1 ? height : width) * (1 + slack));
}
