/** The key by which a request is one, on its way from the request to the transaction that does what it asks. */
import { AsyncLocalStorage } from 'node:async_hooks';
import { lt } from 'drizzle-orm';
import type { Database, Transaction } from './database.ts';
import { onceKeys } from './schema.ts';

const KEPT_MS = 24 * 3600_000;

const asked = new AsyncLocalStorage<{ key: string | null }>();

/** Another request of the same key was first. */
export class DoneAlready extends Error {}

/** The first transaction within `work` that changes something writes the key with it. */
export const withKey = (key: string, work: () => void): void => asked.run({ key }, work);

/** @throws DoneAlready, which takes everything back */
export async function writeKey(tx: Transaction): Promise<void> {
  const request = asked.getStore();
  if (!request?.key) return;
  const { key } = request;
  request.key = null;
  const [row] = await tx.insert(onceKeys).values({ key }).onConflictDoNothing().returning();
  if (!row) throw new DoneAlready();
}

export async function forgetOldKeys(db: Database): Promise<void> {
  await db.delete(onceKeys).where(lt(onceKeys.createdAt, new Date(Date.now() - KEPT_MS)));
}
