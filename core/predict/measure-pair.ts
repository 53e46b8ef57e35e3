/** What a trial's two renders measured: the same figures a prediction states. */
import type { Effect } from '../contracts/figures.ts';
import type { Region } from '../data/picture.ts';
import { compareSides } from '../figures/compare.ts';
import type { SceneFigures } from '../figures/figure.ts';
import { figurePasses } from '../figures/registry.ts';
import type { Film } from '../render/film/film.ts';
import { pictureOf } from '../render/film/film-picture.ts';
import type { FilmLayout } from '../render/film/passes.ts';

/** One render of a trial. */
export interface RenderedSide {
  /** They cover the region. */
  films: Film[];
  layout: FilmLayout;
  /** Samples of each pixel that stay out of the films, see `render/frame/adaptive.ts`. */
  deciding: number;
  /** Rays of ambient occlusion that each sample sends. */
  occlusionRays: number;
  /** Of thread time; null: no clock ran. */
  seconds: number | null;
  /** See `scene-figures.ts`. */
  ofScene: SceneFigures;
}

/**
 * @param before and `after`: on the same random numbers
 * @param mask a byte a pixel of the full frame, whose brightness counts; null, or empty in the region: all
 * @param frameWidth pixels
 * @param names what objects are called, by number from 0
 */
export function measurePair(
  before: RenderedSide,
  after: RenderedSide,
  { region, mask, frameWidth, names }: { region: Region; mask: Uint8Array | null; frameWidth: number; names: string[] },
): Effect {
  const side = ({ films, layout, ...rest }: RenderedSide) => ({ ...rest, picture: pictureOf(films, region, figurePasses(layout), layout) }); // prettier-ignore
  return compareSides({ before: side(before), after: side(after), mask: mask && cut(mask, region, frameWidth), names });
}

function cut(mask: Uint8Array, { x, y, width, height }: Region, frameWidth: number): Uint8Array {
  const inside = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = (y + row) * frameWidth + x;
    inside.set(mask.subarray(from, from + width), row * width);
  }
  return inside;
}
