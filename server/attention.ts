/** The shot that somebody opened last goes first: its renders and examinations before those of all others, queued ones too. */
import { desc, eq, isNotNull, sql } from 'drizzle-orm';
import type { Context } from './context.ts';
import type { Transaction } from './db/database.ts';
import { shots } from './db/schema.ts';
import { OPEN_SHOT } from './priorities.ts';

/** Notes that a shot was opened, and moves what is queued for it before the rest. */
export async function attend({ db, queue }: Context, shotId: number): Promise<void> {
  await db.transaction(async (tx) => {
    if ((await attendedShot(tx)) === shotId) return;
    // Jobs before their shot, in the order in which those that give up a job take them.
    await queue.favour(tx, shotId, OPEN_SHOT);
    await tx
      .update(shots)
      .set({ openedAt: sql`clock_timestamp()` })
      .where(eq(shots.id, shotId));
  });
}

/** @returns what is added to the priority of work on a shot */
export const favourOf = async (tx: Transaction, shotId: number): Promise<number> =>
  (await attendedShot(tx)) === shotId ? OPEN_SHOT : 0;

/** @returns the id of the shot that goes first; null before any was opened */
export async function attendedShot(tx: Transaction): Promise<number | null> {
  const [shot] = await tx
    .select({ id: shots.id })
    .from(shots)
    .where(isNotNull(shots.openedAt))
    .orderBy(desc(shots.openedAt))
    .limit(1);
  return shot?.id ?? null;
}
