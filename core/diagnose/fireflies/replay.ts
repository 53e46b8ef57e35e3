/** Guilty samples traced again with the render's own random numbers, in a scene where something is set otherwise. */
import { channel, type Picture } from '../../data/picture.ts';
import { findFireflies } from '../../picture/fireflies.ts';
import { luminancePlane } from '../../picture/measured.ts';
import { renderPixels } from '../../render/frame/render-tile.ts';
import { GROUP } from '../../render/film/random.ts';
import { BRIGHTEST } from '../../render/film/passes.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import { luminance } from '../../data/colour.ts';
import type { Variation } from '../../predict/small-render.ts';

/** Pixels that are traced again: spread evenly over all. */
const MOST = 128;
/** A pixel is guilty still when it stands out, and one sample brought so much of its light. */
const SINGLE = 0.5;

export interface Replay {
  traced: number;
  cured: number;
}

/** @param at numbers of the guilty pixels of `picture`, a whole frame that was rendered with the sheet's seed */
export function replay({ sheet, compile }: Variation, picture: Picture, at: number[]): Replay {
  const step = Math.max(1, at.length / MOST);
  const pixels = Array.from({ length: Math.min(MOST, at.length) }, (_, k) => at[Math.floor(k * step)]);
  const most = pixels.reduce((n, i) => Math.max(n, channel(picture, 'samples')[i]), GROUP);
  const film = renderPixels(compile(), settingsOf(sheet), pixels, most / GROUP);
  // Held against the neighbours as they were: they can only be brighter, where light is spread that was in single pixels.
  const luminances = luminancePlane(picture, 'beauty').slice();
  pixels.forEach((i, k) => {
    const o = k * film.width;
    luminances[i] = luminance(film.means[o], film.means[o + 1], film.means[o + 2]);
  });
  const { mask } = findFireflies({ luminance: luminances, width: picture.width, height: picture.height });
  const guilty = pixels.filter((i, k) => {
    const isSingle = film.brightest[k * BRIGHTEST] >= SINGLE * luminances[i] * film.counts[k] * GROUP;
    return isSingle && mask[i] === 1;
  });
  return { traced: pixels.length, cured: pixels.length - guilty.length };
}
