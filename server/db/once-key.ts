/** The key by which a request is one, on its way from the request to the transaction that does what it asks. */
import { AsyncLocalStorage } from 'node:async_hooks';
import type { Transaction } from './database.ts';
import { onceKeys } from './schema.ts';

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
