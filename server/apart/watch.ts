/**
 * Ends the process it is a thread of when that takes more memory or time than it may, or when the one it works for is
 * gone. On a thread, because the process may be busy; by the resident size, because typed arrays are in no heap that an
 * engine limits.
 */
import { workerData } from 'node:worker_threads';

/** What a process that took too much memory ends by, to tell it from others. */
const TOO_MUCH_MEMORY = 'SIGUSR2';
const EVERY_MS = 50;

interface Watched {
  /** Number of the process that this one works for. */
  parent: number;
  /** Most bytes. */
  bytes: number;
  /** Times at which work has to be done, in milliseconds since 1970; 0: none. */
  deadlines?: Float64Array;
}

const { parent, bytes, deadlines } = workerData as Watched;
setInterval(() => {
  if (process.ppid !== parent) process.kill(process.pid, 'SIGKILL');
  if (process.memoryUsage.rss() > bytes) process.kill(process.pid, TOO_MUCH_MEMORY);
  const now = Date.now();
  if (deadlines?.some((deadline) => deadline > 0 && deadline < now)) process.kill(process.pid, 'SIGKILL');
}, EVERY_MS);
