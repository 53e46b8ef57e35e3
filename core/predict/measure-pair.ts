/** What a trial's two renders measured: the same figures a prediction states. */
import type { Effect } from '../contracts/finding.ts';
import { channel, type Region } from '../data/picture.ts';
import { grainOf } from '../data/grain.ts';
import { luminancePlane } from '../picture/measured.ts';
import type { Film } from '../render/film.ts';
import { pictureOf } from '../render/film-picture.ts';

/**
 * @param before films that cover `region`, and `after` those of the changed settings, same random numbers
 * @param mask a byte a pixel of the full frame, whose brightness counts; null, or empty in the region: all
 * @param frameWidth pixels
 */
export function measurePair(
  before: Film[],
  after: Film[],
  region: Region,
  mask: Uint8Array | null,
  frameWidth: number,
): Effect {
  const inside = new Uint8Array(region.width * region.height);
  if (mask)
    for (let y = 0; y < region.height; y++) {
      const from = (region.y + y) * frameWidth + region.x;
      inside.set(mask.subarray(from, from + region.width), y * region.width);
    }
  if (!inside.includes(1)) inside.fill(1);
  const [a, b] = [before, after].map((films) => measureSide(films, region, inside));
  return {
    stops: Math.log2(b.light / a.light) || 0,
    cost: b.rays / a.rays,
    grainBefore: a.grain,
    grainAfter: b.grain,
  };
}

function measureSide(films: Film[], region: Region, inside: Uint8Array) {
  const picture = pictureOf(films, region, ['beauty', 'error.beauty', 'cost', 'samples']);
  const y = luminancePlane(picture, 'beauty');
  const samples = channel(picture, 'samples');
  return {
    light: y.reduce((sum, value, i) => (inside[i] ? sum + value : sum), 0),
    rays: channel(picture, 'cost').reduce((sum, rays, i) => sum + rays * samples[i], 0),
    grain: grainOf(y, channel(picture, 'error.beauty')),
  };
}
