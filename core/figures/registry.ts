/** All figures, in the order in which they are told. */
import type { FilmLayout } from '../render/film/passes.ts';
import { brightNoise } from './bright-noise.ts';
import { brightness } from './brightness.ts';
import { changed } from './changed.ts';
import { contrast } from './contrast.ts';
import type { Figure } from './figure.ts';
import { fireflies } from './fireflies.ts';
import { gapArea } from './gap-area.ts';
import { gapPixels } from './gap-pixels.ts';
import { gap } from './gap.ts';
import { information } from './information.ts';
import { memory } from './memory.ts';
import { mostChanged } from './most-changed.ts';
import { noise } from './noise.ts';
import { occlusionNoise } from './occlusion-noise.ts';
import { openness } from './openness.ts';
import { previewShadows } from './preview-shadows.ts';
import { rays } from './rays.ts';
import { shut } from './shut.ts';
import { time } from './time.ts';

export const FIGURES: readonly Figure[] = [
  fireflies,
  gapPixels,
  gap,
  gapArea,
  brightness,
  mostChanged,
  changed,
  contrast,
  openness,
  shut,
  information,
  occlusionNoise,
  previewShadows,
  noise,
  brightNoise,
  rays,
  time,
  memory,
];

/** @throws RangeError where there is none of that id: what was stored by a later build, or a slip */
export function figureOf(id: string): Figure {
  const figure = FIGURES.find((one) => one.id === id);
  if (!figure) throw new RangeError(`there is no figure "${id}"; there are ${FIGURES.map((one) => one.id).join(', ')}`);
  return figure;
}

/** Passes that pictures of both sides must have. @param figures that are measured; all by default */
export const figurePasses = (layout: FilmLayout, figures: readonly Figure[] = FIGURES): string[] => [
  ...new Set(figures.flatMap((figure) => figure.needs(layout) ?? [])),
];
