/** A render's films as they are now: the latest of each tile. */
import { asc, desc, eq } from 'drizzle-orm';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { tiles } from '../db/schema.ts';

/** @returns packed films, one a tile that has begun; see `unpackFilm` */
export async function filmsOf(
  context: Context,
  tx: Transaction | Context['db'],
  renderId: number,
): Promise<Uint8Array[]> {
  const rows = await tx
    .selectDistinctOn([tiles.tile], { film: tiles.film })
    .from(tiles)
    .where(eq(tiles.renderId, renderId))
    .orderBy(asc(tiles.tile), desc(tiles.groups));
  return Promise.all(rows.map((row) => context.blobs.get(row.film)));
}
