/** The map is filtered over so many texels that what lies beyond the border of an island is read with it. */
import { imagesOf, type Way } from '../way.ts';

export const filterAcross: Way = {
  cause: 'seams.filter-across',
  values(input) {
    const { document } = input.state;
    const maps = imagesOf(input)
      .flatMap((image) => image.maps)
      .filter((id) => (document.maps[id] as { filter?: string }).filter === 'mip');
    return maps.length ? Object.fromEntries(maps.map((id) => [`/maps/${id}/filter`, 'bilinear'])) : null;
  },
};
