/** UVs of an island’s border are smoothed with the rest: the border is no longer where the map was baked. */
import type { Way } from '../way.ts';

/** Holds the whole border, as maps are baked; the inside is smoothed as before. */
const HELD = 'boundaries';

export const uvRule: Way = {
  cause: 'seams.uv-rule',
  values({ state: { document }, sheet, ids }) {
    const smoothed = ids.filter((id) => {
      const { level, uvs } = document.objects[id].subdivision;
      return Math.min(level, sheet.mostSubdivision ?? Infinity) > 0 && uvs !== HELD && uvs !== 'all';
    });
    return smoothed.length ? Object.fromEntries(smoothed.map((id) => [`/objects/${id}/subdivision/uvs`, HELD])) : null;
  },
};
