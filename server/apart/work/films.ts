/** What is made of a render's films, as files; apart, see `apart/`. */
import { writeFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { channel, type Region } from '../../../core/data/picture.ts';
import type { ShotDocument, SheetName } from '../../../core/document/schema.ts';
import { figurePasses, passFigures } from '../../../core/picture/pass-figures.ts';
import { packPicture } from '../../../core/picture/planes.ts';
import { filmExr } from '../../../core/render/film/film-exr.ts';
import { unpackFilm, type Film } from '../../../core/render/film/film.ts';
import { addFilm } from '../../../core/render/film/put-together.ts';
import { fillPicture } from '../../../core/render/film/film-picture.ts';
import type { FilmLayout } from '../../../core/render/film/passes.ts';
import { BlobStore } from '../../blobs.ts';

/** Hashes of a tile's film, and of what its pixels took. */
export interface FilmBlobs {
  film: string;
  time: string | null;
  /** Of the same tile in a render that is added into this one. */
  added?: { film: string; time: string | null };
}

/** @throws DamagedBlob */
export async function openFilm(store: BlobStore, { film, time, added }: FilmBlobs): Promise<Film> {
  const own = unpackFilm(await store.get(film), time === null ? null : await store.get(time));
  if (added) addFilm(own, await openFilm(store, added));
  return own;
}

export interface FilmTask {
  /** Folder of the blobs. */
  blobs: string;
  films: FilmBlobs[];
  region: Region;
  layout: FilmLayout;
  /** Where the file is to stand. */
  place: string;
}

/** One after the other: those of a large frame do not all fit at once. */
async function* eachOf({ blobs, films }: FilmTask): AsyncGenerator<Film> {
  const store = new BlobStore(blobs);
  for (const film of films) yield await openFilm(store, film);
}

async function pictureOf(task: FilmTask, passes: string[], step = 1) {
  const { picture, add } = fillPicture(task.region, passes, task.layout, step);
  for await (const film of eachOf(task)) add(film);
  return picture;
}

/** Passes as `core/picture/planes.ts` packs them. */
export async function pictureOfFilms(task: FilmTask & { passes: string[]; revision: number }): Promise<void> {
  const picture = await pictureOf(task, task.passes);
  await writeFile(task.place, packPicture(picture, { revision: task.revision }));
}

/** `PassFigures` of every pass as JSON. @param task `step`: takes every so many-th pixel in both directions */
export async function figuresOfFilms(task: FilmTask & { step: number }): Promise<void> {
  const picture = await pictureOf(task, figurePasses(task.layout), task.step);
  await writeFile(task.place, JSON.stringify(passFigures(picture, task.layout)));
}

/** Where objects are seen: a byte a pixel, 1 where one of them is what the pixel shows most of. */
export async function maskOfFilms(task: FilmTask & { objects: number[] }): Promise<void> {
  const wanted = new Set(task.objects);
  const picture = await pictureOf(task, ['object']);
  await writeFile(
    task.place,
    Uint8Array.from(channel(picture, 'object'), (one) => Number(wanted.has(one))),
  );
}

export interface ExrTask extends FilmTask {
  document: ShotDocument;
  sheet: SheetName;
  statistics: Record<string, number>;
}

/** Every pass as a multi-layer EXR. */
export async function exrOfFilms(task: ExrTask): Promise<void> {
  const films: Film[] = [];
  for await (const film of eachOf(task)) films.push(film);
  const { document, sheet, statistics, region, layout } = task;
  const deflate = (raw: Uint8Array) => deflateSync(raw);
  const bytes = filmExr(films, region, layout, { document, sheet: document.sheets[sheet], deflate, statistics });
  await writeFile(task.place, bytes);
}
