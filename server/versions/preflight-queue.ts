/** Queues preflight of versions: with each of them, and when what they are held against changes. */
import { eq, sql } from 'drizzle-orm';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { preflights } from '../db/schema.ts';
import { PREFLIGHT } from '../priorities.ts';

export async function queuePreflight(context: Context, tx: Transaction, versionId: number): Promise<void> {
  await tx.insert(preflights).values({ versionId, state: 'waiting' }).onConflictDoNothing();
  await context.queue.send(tx, 'preflight', [{ versionId }], PREFLIGHT);
}

/** What the version is held against has changed. */
export async function checkAgain(context: Context, tx: Transaction, versionId: number): Promise<void> {
  await tx
    .update(preflights)
    .set({ state: 'waiting', run: sql`${preflights.run} + 1` })
    .where(eq(preflights.versionId, versionId));
  await queuePreflight(context, tx, versionId);
}
