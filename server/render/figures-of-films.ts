/** Figures of every pass of a render, read off its films; on a thread, see `apart.ts`. */
import { readFile } from 'node:fs/promises';
import type { Region } from '../../core/data/picture.ts';
import { figurePasses, passFigures, type PassFigures } from '../../core/picture/pass-figures.ts';
import { unpackFilm } from '../../core/render/film.ts';
import { fillPicture } from '../../core/render/film-picture.ts';
import type { FilmLayout } from '../../core/render/passes.ts';

export interface FiguresTask {
  /** Where the films stand on disk. */
  films: string[];
  region: Region;
  layout: FilmLayout;
  /** Takes every so many-th pixel in both directions. */
  step: number;
}

export async function figuresOfFilms({ films, region, layout, step }: FiguresTask): Promise<PassFigures> {
  const { picture, add } = fillPicture(region, figurePasses(layout), layout, step);
  for (const film of films) add(unpackFilm(new Uint8Array(await readFile(film))));
  return passFigures(picture, layout);
}
