/** What a trial's two renders measured: the same figures a prediction states. */
import type { Effect } from '../contracts/finding.ts';
import type { Region } from '../data/picture.ts';
import type { Film } from '../render/film/film.ts';
import { pictureOf } from '../render/film/film-picture.ts';
import { EFFECT_PASSES, effectOf } from './effect-of.ts';

/**
 * @param before films that cover `region`, and `after` those of the changed settings, same random numbers
 * @param mask a byte a pixel of the full frame, whose brightness counts; null, or empty in the region: all
 * @param frameWidth pixels
 * @param deciding samples of each pixel that stay out of the films, see `adaptive.ts`
 * @param names what objects are called, by number from 0
 */
export function measurePair(
  before: Film[],
  after: Film[],
  region: Region,
  mask: Uint8Array | null,
  frameWidth: number,
  names: string[] = [],
  deciding: [number, number] = [0, 0],
): Effect {
  const inside = mask && new Uint8Array(region.width * region.height);
  if (mask)
    for (let y = 0; y < region.height; y++) {
      const from = (region.y + y) * frameWidth + region.x;
      inside!.set(mask.subarray(from, from + region.width), y * region.width);
    }
  const [a, b] = [before, after].map((films) => pictureOf(films, region, EFFECT_PASSES));
  return effectOf(a, b, inside, names, deciding);
}
