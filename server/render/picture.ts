/** Pictures of renders, as far as they are. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import { channel, type Picture } from '../../core/data/picture.ts';
import type { PassFigures } from '../../core/picture/pass-figures.ts';
import { packPicture } from '../../core/picture/planes.ts';
import { unpackFilm } from '../../core/render/film.ts';
import { fillPicture, pictureOf } from '../../core/render/film-picture.ts';
import { filmLayout } from '../../core/render/film-layout.ts';
import { samplesOf } from '../../core/render/rounds.ts';
import { passList } from '../../core/render/pass-list.ts';
import type { FilmLayout } from '../../core/render/passes.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { Context } from '../context.ts';
import { renders, tiles, versions } from '../db/schema.ts';
import { conflict, notFound, RequestError } from '../errors.ts';
import { apart } from '../apart.ts';
import { eachFilm, filmPlaces } from './films.ts';
import { patchedDocument, tileRegions, type RenderRow } from './renders.ts';

/** Passes of a render over its region; see `core/picture/planes.ts` for the bytes. */
export async function renderPicture(context: Context, id: number, passes: string[]): Promise<Uint8Array> {
  const render = await findRender(context, id);
  const layout = await layoutOf(context, render);
  const known = passList(layout).map((pass) => pass.name);
  if (!passes.length || !passes.every((pass) => known.includes(pass)))
    throw new RequestError(400, `passes is "${passes.join(',')}"; it must name some of ${known.join(', ')}.`);
  return packPicture(await pictureNow(context, render, passes, layout), { revision: render.revision });
}

/** Figures are statistics: so many pixels of a large frame tell them as well as all. */
const FIGURE_PIXELS = 600_000;

/** Figures of every pass, for the rail beside the picture. */
export async function renderFigures(context: Context, id: number): Promise<PassFigures> {
  const render = await findRender(context, id);
  const layout = await layoutOf(context, render);
  const step = Math.ceil(Math.sqrt((render.width * render.height) / FIGURE_PIXELS));
  const { x, y, width, height } = render;
  const films = await filmPlaces(context, id);
  return apart('figuresOfFilms', { films, region: { x, y, width, height }, layout, step });
}

/** The render as it is, every pass of it, as an EXR file; with the name to keep it under. */
export async function renderExr(context: Context, id: number): Promise<{ bytes: Uint8Array; name: string }> {
  const render = await findRender(context, id);
  const document = await documentOf(context, render);
  const { x, y, width, height, sheet } = render;
  const films = await filmPlaces(context, id);
  if (films.length === 0) throw conflict(`Render ${id} has no pixels yet.`);
  const bytes = await apart('exrOfFilms', {
    films,
    region: { x, y, width, height },
    layout: filmLayout(document, document.sheets[sheet]),
    document,
    sheet,
    statistics: {
      samples: samplesOf(render.doneGroups) / render.tileCount,
      seed: render.seed,
      rays: render.rays,
      threadSeconds: render.ms / 1000,
    },
  });
  return { bytes, name: `${document.code}.${sheet}.${String(document.frame).padStart(4, '0')}.exr` };
}

/** Where an object is seen in a whole frame: a byte a pixel, 1 where it is what the pixel shows most of. */
export async function objectMask(context: Context, id: number, object: string): Promise<Uint8Array> {
  const render = await findRender(context, id);
  const document = await documentOf(context, render);
  const number = Object.keys(document.objects).sort().indexOf(object) + 1;
  if (number === 0) throw notFound(`object "${object.slice(0, 80)}" in render ${id}`);
  const layout = filmLayout(document, document.sheets[render.sheet]);
  const picture = await pictureNow(context, render, ['object'], layout);
  return Uint8Array.from(channel(picture, 'object'), (one) => Number(one === number));
}

/** The document that a render was made of, with its patch. */
export const renderDocument = async (context: Context, id: number): Promise<ShotDocument> =>
  documentOf(context, await findRender(context, id));

async function documentOf({ db }: Context, render: RenderRow): Promise<ShotDocument> {
  const [version] = await db.select().from(versions).where(eq(versions.id, render.versionId));
  return patchedDocument(version, JSON.parse(render.patch) as JsonPatch);
}

/** What the render's films keep beyond what all do. */
async function layoutOf(context: Context, render: RenderRow): Promise<FilmLayout> {
  const document = await documentOf(context, render);
  return filmLayout(document, document.sheets[render.sheet]);
}

async function pictureNow(context: Context, render: RenderRow, passes: string[], layout: FilmLayout): Promise<Picture> {
  const { x, y, width, height } = render;
  const { picture, add } = fillPicture({ x, y, width, height }, passes, layout);
  for await (const film of eachFilm(context, context.db, render.id)) add(unpackFilm(film));
  return picture;
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
  const render = await findRender(context, id);
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
  const rows = await context.db
    .selectDistinctOn([tiles.tile], { film: tiles.film })
    .from(tiles)
    .where(and(eq(tiles.renderId, id), inArray(tiles.tile, wanted)))
    .orderBy(asc(tiles.tile), desc(tiles.groups));
  const layout = await layoutOf(context, render);
  const films = await Promise.all(rows.map(async ({ film }) => unpackFilm(await context.blobs.get(film))));
  const region = { x: left, y: top, width, height };
  return pictureOf(films, region, passList(layout).map((pass) => pass.name), layout); // prettier-ignore
}

async function findRender({ db }: Context, id: number): Promise<RenderRow> {
  const [render] = await db.select().from(renders).where(eq(renders.id, id));
  if (!render) throw notFound(`render ${id}`);
  return render;
}
