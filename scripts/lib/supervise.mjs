/** Keeps a process running: begins it again when it ends by itself, later each time, and gives up with a sentence. */
import { setTimeout as sleep } from 'node:timers/promises';
import { stopChild } from './command.mjs';
import { say } from './say.mjs';

const FIRST_PAUSE_MS = 200;
const LONGEST_PAUSE_MS = 10_000;
/** A process that ran for so long was well: what comes after is a first failure again. */
const WELL_MS = 30_000;
const MOST_FAILURES = 12;

/**
 * @param what how it is called in sentences
 * @param begin begins the process; a promise of it where that takes a while
 * @param log where what it said stands
 * @param giveUp called with a sentence when it has failed too often
 * @returns {{ child: () => import('node:child_process').ChildProcess | null, stop: () => Promise<void> }}
 */
export function supervise(what, begin, log, giveUp) {
  let child = null;
  let stopping = false;
  let failures = 0;
  const run = () => {
    const begun = Date.now();
    child = begin();
    child.once('exit', async (code, signal) => {
      if (stopping) return;
      failures = Date.now() - begun > WELL_MS ? 1 : failures + 1;
      const how = `${what} ended (${signal ?? code}); see ${log}.`;
      if (failures > MOST_FAILURES) {
        await giveUp(`${how} It has ended ${failures} times in a row, and is not begun again.`);
        return;
      }
      say(`${how} It is begun again.`);
      await sleep(Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** (failures - 1)));
      if (!stopping) run();
    });
  };
  run();
  return {
    child: () => child,
    stop: async () => {
      stopping = true;
      if (child) await stopChild(child);
    },
  };
}
