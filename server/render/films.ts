/** A render's films as they are now: the latest of each tile. */
import { asc, desc, eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { tiles } from '../db/schema.ts';

/** Films read at a time. */
const TOGETHER = 16;

/** Packed films one after the other, one a tile that has begun; see `unpackFilm`. A large frame's do not all fit at once. */
export async function* eachFilm(
  context: Context,
  tx: Transaction | Context['db'],
  renderId: number,
): AsyncGenerator<Uint8Array> {
  const rows = await latest(tx, renderId);
  for (let i = 0; i < rows.length; i += TOGETHER)
    yield* await Promise.all(rows.slice(i, i + TOGETHER).map((row) => context.blobs.get(row.film)));
}

/** Where they stand on disk, for threads that read them themselves. */
export async function filmPlaces({ blobs, db }: Context, renderId: number): Promise<string[]> {
  return (await latest(db, renderId)).map(({ film }) => blobs.place(film));
}

const latest = (tx: Transaction | Context['db'], renderId: number) =>
  tx
    .selectDistinctOn([tiles.tile], { film: tiles.film })
    .from(tiles)
    .where(eq(tiles.renderId, renderId))
    .orderBy(asc(tiles.tile), desc(tiles.groups));

/** All of them, for what needs them together. */
export async function filmsOf(context: Context, tx: Transaction | Context['db'], renderId: number) {
  const films: Uint8Array[] = [];
  for await (const film of eachFilm(context, tx, renderId)) films.push(film);
  return films;
}
