/** Telling pages that a shot changed, and workers that there is work, through PostgreSQL's own channels. */
import { eq, sql } from 'drizzle-orm';
import pg from 'pg';
import type { Transaction } from './db/database.ts';
import { shots } from './db/schema.ts';
import { log } from './log.ts';

export const SHOT_CHANNEL = 'dusting_shot';
export const WORK_CHANNEL = 'dusting_work';

/** Raises a shot's revision in the transaction that changes it, and tells pages once it is committed. */
export async function shotChanged(tx: Transaction, shotId: number): Promise<void> {
  await tx
    .update(shots)
    .set({ revision: sql`${shots.revision} + 1` })
    .where(eq(shots.id, shotId));
  await tx.execute(sql`select pg_notify(${SHOT_CHANNEL}, ${String(shotId)})`);
}

/** The same for its pictures, looks and balance, which pages read apart from the rest. */
export async function lookChanged(tx: Transaction, shotId: number): Promise<void> {
  await tx
    .update(shots)
    .set({ lookRevision: sql`${shots.lookRevision} + 1` })
    .where(eq(shots.id, shotId));
  await shotChanged(tx, shotId);
}

/**
 * Listens on a channel for as long as the process lives; connects again when the connection is lost.
 * @param heard called with each payload, and with null after a reconnect, when something may have been missed
 */
export function listen(
  url: string,
  channel: string,
  heard: (payload: string | null) => void,
): { stop(): Promise<void> } {
  let client: pg.Client | null = null;
  let stopped = false;
  const connect = async (): Promise<void> => {
    if (stopped) return;
    const next = new pg.Client({ connectionString: url });
    let lost = false;
    const again = () => {
      if (lost) return;
      lost = true;
      if (!stopped) setTimeout(() => void connect(), 500);
    };
    next.on('error', again);
    next.on('end', again);
    next.on('notification', (n) => heard(n.payload ?? ''));
    try {
      await next.connect();
      await next.query(`listen ${channel}`);
      client = next;
      heard(null);
    } catch (error) {
      log.warn({ error: String(error) }, 'listening again soon');
      again();
    }
  };
  void connect();
  return {
    async stop() {
      stopped = true;
      await client?.end();
    },
  };
}
