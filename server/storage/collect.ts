/** Takes away, while the server runs, what nothing refers to: blobs, uploads, made files, old keys. */
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { forgetOldKeys } from '../db/once-key.ts';
import { removeLeftovers } from './upload-folders.ts';
import { log } from '../log.ts';
import { keptBlobs } from './references.ts';

/** Younger blobs may belong to a transaction that is still open. */
const AGE_MS = 3600_000;
const EVERY_MS = 20 * 60_000;
/** Soon after a start, but not while everybody wants something. */
const FIRST_MS = 60_000;

export async function collect(context: Context, age = AGE_MS): Promise<void> {
  await removeLeftovers(join(config.data, 'uploads'));
  await context.made.trim();
  await forgetOldKeys(context.db);
  const told = await context.blobs.collect(await keptBlobs(context.db), age);
  if (told.removed) log.info(told, 'blobs nothing refers to are gone');
}

/** Collects now and then until it is stopped. */
export function collectRegularly(context: Context): { stop(): void } {
  const stopped = new AbortController();
  const run = async () => {
    for (let pause = FIRST_MS; ; pause = EVERY_MS) {
      await sleep(pause, null, { signal: stopped.signal });
      await collect(context).catch((error: unknown) => log.warn({ error: String(error) }, 'collecting'));
    }
  };
  run().catch(() => {});
  return { stop: () => stopped.abort() };
}
