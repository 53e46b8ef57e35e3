/** Pictures of renders, as far as they are. */
import { objectNumber } from '../../core/document/object-names.ts';
import { eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Picture } from '../../core/data/picture.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { filmLayout } from '../../core/render/film/film-layout.ts';
import { samplesOf } from '../../core/render/film/rounds.ts';
import { passList } from '../../core/render/film/pass-list.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { createHash } from 'node:crypto';
import { apart } from '../apart/apart.ts';
import { DamagedBlob } from '../blobs.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { conflict, notFound, RequestError } from '../errors.ts';
import { patchedDocument } from '../apart/work/document.ts';
import { filmBlobs, findRender, tileOfBlob } from './films.ts';
import { openFilm, type FilmTask } from '../apart/work/films.ts';
import { tileRegions, type RenderRow } from './renders.ts';

/** Figures are statistics: so many pixels of a large frame tell them as well as all. */
const FIGURE_PIXELS = 600_000;

/** Passes of a render over its region, as a file; see `core/picture/planes.ts` for the bytes. */
export async function renderPicture(context: Context, id: number, passes: string[]): Promise<string> {
  const render = await findRender(context.db, id);
  const { layout } = await madeOf(context, render);
  const known = passList(layout).map((pass) => pass.name);
  if (!passes.length || !passes.every((pass) => known.includes(pass)))
    throw new RequestError(400, `passes is "${passes.join(',').slice(0, 200)}"; it must name some of ${known.join(', ')}.`); // prettier-ignore
  const { revision } = render;
  const which = passes.length === 1 ? passes[0] : createHash('sha256').update(passes.join()).digest('hex').slice(0, 16);
  return ofFilms(context, render, `picture-${id}-${fileNameOf(which)}`, (task) =>
    apart('pictureOfFilms', { ...task, passes, revision }),
  );
}

/** Figures of every pass, for the rail beside the picture: `PassFigures` as a file of JSON. */
export async function renderFigures(context: Context, id: number): Promise<string> {
  const render = await findRender(context.db, id);
  const step = Math.ceil(Math.sqrt((render.width * render.height) / FIGURE_PIXELS));
  return ofFilms(context, render, `pass-figures-${id}`, (task) => apart('figuresOfFilms', { ...task, step }));
}

/** The render as it is, every pass of it, as an EXR file; with the name to keep it under. */
export async function renderExr(context: Context, id: number): Promise<{ place: string; name: string }> {
  const render = await findRender(context.db, id);
  const { document } = await madeOf(context, render);
  const { sheet } = render;
  if (render.doneGroups === 0) throw conflict(`Render ${id} has no pixels yet.`);
  const statistics = {
    samples: samplesOf(render.doneGroups) / render.tileCount,
    seed: render.seed,
    rays: render.rays,
    threadSeconds: render.ms / 1000,
  };
  const place = await ofFilms(context, render, `exr-${id}`, (task) =>
    apart('exrOfFilms', { ...task, document, sheet, statistics }),
  );
  return { place, name: `${document.code}.${sheet}.${String(document.frame).padStart(4, '0')}.exr` };
}

/** Where objects are seen in a whole frame: a byte a pixel, as a file. @param objects ids, with commas between */
export async function objectMask(context: Context, id: number, objects: string): Promise<string> {
  const render = await findRender(context.db, id);
  const { document } = await madeOf(context, render);
  // What came after the render is not in it.
  const numbers = objects.split(',').flatMap((object) => objectNumber(document, object) || []);
  if (numbers.length === 0) throw notFound(`object "${objects.slice(0, 80)}" in render ${id}`);
  const name = createHash('sha256').update(numbers.join()).digest('hex').slice(0, 16);
  return ofFilms(context, render, `mask-${id}-${name}`, (task) => apart('maskOfFilms', { ...task, objects: numbers }));
}

const fileNameOf = (pass: string): string => pass.replaceAll(/[^A-Za-z0-9_.]/g, (c) => `-${c.codePointAt(0)}-`).slice(0, 100); // prettier-ignore

/** A file that is made of a render's films, once for each of its revisions: for all who ask, so that one who leaves ends nothing. */
async function ofFilms(
  context: Context,
  render: RenderRow,
  of: string,
  make: (task: FilmTask) => Promise<void>,
): Promise<string> {
  const { x, y, width, height, revision } = render;
  try {
    return await context.made.place({ of, state: String(revision) }, async (place) => {
      const films = await filmBlobs(context.db, render.id);
      const { layout } = await madeOf(context, render);
      await make({ blobs: context.blobs.folder, films, region: { x, y, width, height }, layout, place });
    });
  } catch (error) {
    throw await damageOf(context, render, error);
  }
}

/** What is damaged, and how to come by it again. */
async function damageOf({ db }: Context, render: RenderRow, error: unknown): Promise<unknown> {
  if (!(error instanceof DamagedBlob)) return error;
  const tile = await tileOfBlob(db, render.id, error.hash);
  const how = error.isGone ? 'is gone from the disk' : 'was changed on the disk';
  return conflict(
    `Tile ${tile ?? '?'} of render ${render.id} ${how}, so that nothing is shown of it. Render version and sheet again: the same pixels mend it.`,
  );
}

/** The document that a render was made of, with its patch. */
export const renderDocument = async (context: Context, id: number): Promise<ShotDocument> =>
  (await madeOf(context, await findRender(context.db, id))).document;

/** Of the renders asked for last: neither changes once a render is there. */
const kept = new LRUCache<number, { document: ShotDocument; layout: ReturnType<typeof filmLayout> }>({ max: 24 });

async function madeOf({ db }: Context, render: RenderRow) {
  const present = kept.get(render.id);
  if (present) return present;
  const [version] = await db.select().from(versions).where(eq(versions.id, render.versionId));
  const document = patchedDocument(version, JSON.parse(render.patch) as JsonPatch);
  const made = { document, layout: filmLayout(document, document.sheets[render.sheet]) };
  kept.set(render.id, made);
  return made;
}

/** Every channel's value at one pixel of the full frame; RequestError 404 outside the render's region. */
export async function renderPixel(context: Context, id: number, x: number, y: number): Promise<Record<string, number>> {
  const { channels } = await pixelsAround(context, id, x, y, 0);
  return Object.fromEntries([...channels].map(([name, plane]) => [name, plane[0]]));
}

/** Every channel's mean and standard deviation over the pixels up to `radius` away; RequestError 404 as above. */
export async function renderArea(
  context: Context,
  id: number,
  x: number,
  y: number,
  radius: number,
): Promise<{ name: string; mean: number; deviation: number | null }[]> {
  const reach = Number.isInteger(radius) ? Math.max(0, Math.min(MOST_RADIUS, radius)) : 0;
  const { channels } = await pixelsAround(context, id, x, y, reach);
  return [...channels].map(([name, plane]) => {
    const mean = plane.reduce((sum, v) => sum + v, 0) / plane.length;
    const variance = plane.reduce((sum, v) => sum + (v - mean) ** 2, 0) / plane.length;
    return { name, mean, deviation: plane.length > 1 ? Math.sqrt(variance) : null };
  });
}
const MOST_RADIUS = 16;

/** All passes of a square about a pixel, as much of it as lies in the render's region. */
async function pixelsAround(context: Context, id: number, x: number, y: number, radius: number): Promise<Picture> {
  const render = await findRender(context.db, id);
  const left = Math.max(render.x, x - radius);
  const top = Math.max(render.y, y - radius);
  const width = Math.min(render.x + render.width - 1, x + radius) - left + 1;
  const height = Math.min(render.y + render.height - 1, y + radius) - top + 1;
  const isWhole = Number.isInteger(x) && Number.isInteger(y);
  const isInside =
    isWhole && x >= render.x && y >= render.y && x < render.x + render.width && y < render.y + render.height;
  if (!isInside) throw notFound(`pixel ${x}, ${y} in render ${id}`);
  const wanted = tileRegions(render).flatMap((r, tile) =>
    r.x < left + width && r.x + r.width > left && r.y < top + height && r.y + r.height > top ? [tile] : [],
  );
  const { layout } = await madeOf(context, render);
  const { blobs, db } = context;
  try {
    const films = await Promise.all((await filmBlobs(db, id, wanted)).map((film) => openFilm(blobs, film)));
    const region = { x: left, y: top, width, height };
    return pictureOf(films, region, passList(layout).map((pass) => pass.name), layout); // prettier-ignore
  } catch (error) {
    throw await damageOf(context, render, error);
  }
}
