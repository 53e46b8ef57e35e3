/** Pictures of renders, as far as they are. */
import { eq } from 'drizzle-orm';
import { packPicture } from '../../core/picture/planes.ts';
import { unpackFilm } from '../../core/render/film.ts';
import { pictureOf } from '../../core/render/film-picture.ts';
import { ALL_PASSES } from '../../core/render/passes.ts';
import type { Context } from '../context.ts';
import { renders } from '../db/schema.ts';
import { notFound, RequestError } from '../errors.ts';
import { filmsOf } from './films.ts';

/** Passes of a render over its region; see `core/picture/planes.ts` for the bytes. */
export async function renderPicture(context: Context, id: number, passes: string[]): Promise<Uint8Array> {
  const unknown = passes.filter((pass) => !ALL_PASSES.includes(pass));
  if (unknown.length || !passes.length)
    throw new RequestError(400, `passes is "${passes.join(',')}"; it must name some of ${ALL_PASSES.join(', ')}.`);
  const [render] = await context.db.select().from(renders).where(eq(renders.id, id));
  if (!render) throw notFound(`render ${id}`);
  const films = (await filmsOf(context, context.db, id)).map(unpackFilm);
  const region = { x: render.x, y: render.y, width: render.width, height: render.height };
  return packPicture(pictureOf(films, region, passes), { revision: render.revision });
}
