/** Patience of processes that begin beside their database. */
import { setTimeout as sleep } from 'node:timers/promises';
import { isAway } from './errors.ts';
import { log } from './log.ts';

/** How long a process that begins waits for its database, milliseconds. */
const BEGIN_MS = 30_000;

/**
 * Does something again for as long as the database is away, which may be on its way up as this process begins.
 * @throws what the last try threw, after half a minute, and at once what is no matter of reaching it
 */
export async function whenReached<T>(work: () => Promise<T>): Promise<T> {
  const end = Date.now() + BEGIN_MS;
  for (;;)
    try {
      return await work();
    } catch (error) {
      if (!isAway(error) || Date.now() > end) throw error;
      log.warn({ error: String(error) }, 'the database is asked again');
      await sleep(200);
    }
}
