/** A render's films as they are now: the latest of each tile. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { FilmBlobs } from '../apart/work/films.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { renders, tiles } from '../db/schema.ts';
import { addedTo, rowTogether } from '../db/sides.ts';
import { notFound } from '../errors.ts';

/** Those of tiles that have begun, in order, with what is added into them. @param only tiles that are wanted; left out: all */
export async function filmBlobs(
  tx: Transaction | Context['db'],
  renderId: number,
  only?: number[],
): Promise<FilmBlobs[]> {
  const added = await addedTo(tx, renderId);
  const others = new Map(added === null ? [] : (await latest(tx, added, only)).map((row) => [row.tile, row]));
  return (await latest(tx, renderId, only)).map(({ tile, film, time }) => ({
    film,
    time,
    ...(others.has(tile) && { added: { film: others.get(tile)!.film, time: others.get(tile)!.time } }),
  }));
}

const latest = (tx: Transaction | Context['db'], renderId: number, only?: number[]) =>
  tx
    .selectDistinctOn([tiles.tile], { tile: tiles.tile, film: tiles.film, time: tiles.time })
    .from(tiles)
    .where(and(eq(tiles.renderId, renderId), only && inArray(tiles.tile, only)))
    .orderBy(asc(tiles.tile), desc(tiles.groups));

/** A render's row, with what is added into it told as one. @throws RequestError 404 */
export async function findRender(tx: Transaction | Context['db'], id: number): Promise<typeof renders.$inferSelect> {
  const added = await addedTo(tx, id);
  const ids = added === null ? [id] : [id, added];
  const rows = await tx.select().from(renders).where(inArray(renders.id, ids));
  const [own, other] = ids.map((one) => rows.find((row) => row.id === one));
  if (!own) throw notFound(`render ${id}`);
  return other ? rowTogether(own, other) : own;
}

/** The tile that a stored film or time of a render belongs to. */
export async function tileOfBlob(db: Context['db'], renderId: number, hash: string): Promise<number | null> {
  const rows = await db.select().from(tiles).where(eq(tiles.renderId, renderId));
  return rows.find(({ film, time }) => film === hash || time === hash)?.tile ?? null;
}

/** Packed films of a render that stands alone, without their times, for what needs them together. */
export async function filmsOf({ blobs }: Context, tx: Transaction | Context['db'], renderId: number) {
  const films: Uint8Array[] = [];
  for (const { film } of await filmBlobs(tx, renderId)) films.push(await blobs.get(film));
  return films;
}
