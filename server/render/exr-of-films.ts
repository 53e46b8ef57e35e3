/** A render as a multi-layer EXR, made of its films; on a thread, see `apart.ts`. */
import { readFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import type { Region } from '../../core/data/picture.ts';
import type { ShotDocument, SheetName } from '../../core/document/schema.ts';
import { filmExr } from '../../core/render/film-exr.ts';
import { unpackFilm } from '../../core/render/film.ts';
import type { FilmLayout } from '../../core/render/passes.ts';

export interface ExrTask {
  /** Where the films stand on disk. */
  films: string[];
  region: Region;
  layout: FilmLayout;
  document: ShotDocument;
  sheet: SheetName;
  statistics: Record<string, number>;
}

export async function exrOfFilms({ films, region, layout, document, sheet, statistics }: ExrTask): Promise<Uint8Array> {
  const read = await Promise.all(films.map(async (place) => unpackFilm(new Uint8Array(await readFile(place)))));
  const options = {
    document,
    sheet: document.sheets[sheet],
    deflate: (raw: Uint8Array) => deflateSync(raw),
    statistics,
  };
  return filmExr(read, region, layout, options);
}
