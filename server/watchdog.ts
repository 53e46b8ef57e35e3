/**
 * Ends this process when something in it hangs: a thread that is told when each piece of work has to be done by, which
 * sees that also when the process itself is too busy to look.
 */
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

export interface Watchdog {
  /** Says that work begins which ends within a time. @returns says that it is done */
  begin(milliseconds: number): () => void;
}

/** Pieces of work at a time. */
const SLOTS = 16;

export function startWatchdog(): Watchdog {
  const deadlines = new Float64Array(new SharedArrayBuffer(SLOTS * 8));
  const file = import.meta.url.endsWith('.ts') ? './apart/watch.ts' : './apart-watch.mjs';
  const workerData = { parent: process.ppid, bytes: Infinity, deadlines };
  new Worker(fileURLToPath(new URL(file, import.meta.url)), { workerData }).unref();
  return {
    begin(milliseconds) {
      const slot = deadlines.indexOf(0);
      if (slot < 0) return () => {};
      deadlines[slot] = Date.now() + milliseconds;
      return () => {
        deadlines[slot] = 0;
      };
    },
  };
}
