/** A render's films as they are now: the latest of each tile. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { FilmBlobs } from '../apart/work/films.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { tiles } from '../db/schema.ts';

/** Those of tiles that have begun, in order. @param only tiles that are wanted; left out: all */
export async function filmBlobs(
  tx: Transaction | Context['db'],
  renderId: number,
  only?: number[],
): Promise<FilmBlobs[]> {
  return tx
    .selectDistinctOn([tiles.tile], { film: tiles.film, time: tiles.time })
    .from(tiles)
    .where(and(eq(tiles.renderId, renderId), only && inArray(tiles.tile, only)))
    .orderBy(asc(tiles.tile), desc(tiles.groups));
}

/** The tile that a stored film or time of a render belongs to. */
export async function tileOfBlob(db: Context['db'], renderId: number, hash: string): Promise<number | null> {
  const rows = await db.select().from(tiles).where(eq(tiles.renderId, renderId));
  return rows.find(({ film, time }) => film === hash || time === hash)?.tile ?? null;
}

/** Packed films, without their times, for what needs them together. */
export async function filmsOf({ blobs }: Context, tx: Transaction | Context['db'], renderId: number) {
  const films: Uint8Array[] = [];
  for (const { film } of await filmBlobs(tx, renderId)) films.push(await blobs.get(film));
  return films;
}
