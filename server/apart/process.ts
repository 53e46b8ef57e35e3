/** A process that does tasks of the web process, one at a time. */
import { constants, setPriority } from 'node:os';
import { Worker } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import workerpool from 'workerpool';
import { outcomeOf } from './outcome.ts';
import { tasks } from './tasks.ts';

// Somebody looks at what is ours; what comes in has time. Threads take after the one that begins them.
if (process.env.DUSTING_APART_LANE === 'foreign') setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

const watch = import.meta.url.endsWith('.ts') ? './watch.ts' : './apart-watch.mjs';
new Worker(fileURLToPath(new URL(watch, import.meta.url)), {
  workerData: { parent: process.ppid, bytes: Number(process.env.DUSTING_APART_BYTES) },
}).unref();

const methods = Object.fromEntries(
  Object.entries(tasks).map(([name, task]) => [
    name,
    (input: unknown) => outcomeOf(() => (task as (input: unknown) => unknown)(input)),
  ]),
);
workerpool.worker(methods);
