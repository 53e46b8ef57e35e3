/** A worker process: takes work from the queue until it is told to stop. Any number may run, anywhere. */
import { constants, setPriority } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import { documentsHere } from './apart/documents.ts';
import { timeVersions } from './budget/time-job.ts';
import { config } from './config.ts';
import { createContext } from './context.ts';
import { isAway, RequestError, storageFault, tellError } from './errors.ts';
import { giveUp } from './give-up.ts';
import { preflightVersion } from './intake/preflight-job.ts';
import { log } from './log.ts';
import { listen, WORK_CHANNEL } from './notify.ts';
import type { Jobs, QueueName } from './queue.ts';
import { examineRender } from './render/examine-job.ts';
import { RenderThreads } from './render/render-threads.ts';
import { Scenes } from './render/scenes.ts';
import { renderBatch } from './render/tiles-job.ts';
import { TakenJobs } from './taken-jobs.ts';
import { endWithParent } from './tied.ts';
import { predictTrials } from './trials/predict-job.ts';
import { sideFailed, sideFinished } from './trials/trial-renders.ts';
import { startWatchdog } from './watchdog.ts';

/** How long to wait for work when nothing says there is some: also how soon an expired job is seen. */
const IDLE_MS = 1000;
/** Before work is tried again that the disk did not take. */
const DISK_PAUSE_S = 2;

// Pages are answered before pixels are rendered; threads take after the process.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
endWithParent();
const { context, pool } = await createContext(documentsHere);
const watchdog = startWatchdog();
const threads = new RenderThreads(config.threads);
const scenes = new Scenes(context);
const jobs = new TakenJobs(config.databaseUrl, context.db, context.queue, (name, job, why) =>
  giveUp(context, name, job as never, why),
);
await jobs.hold();
jobs.watch();

const handlers: { [N in QueueName]: (job: Jobs[N]) => Promise<void> } = {
  predict: (job) => predictTrials(context, scenes, threads, job),
  tiles: (job) => renderBatch(context, scenes, threads, { finished: sideFinished, failed: sideFailed }, job),
  examine: (job) => examineRender(context, scenes, threads, job),
  preflight: (job) => preflightVersion(context, job),
  time: (job) => timeVersions(context, threads, job),
};

let stopping = false;
const sleepers = new Set<() => void>();
const wake = () => {
  for (const rise of sleepers) rise();
  sleepers.clear();
};
const work = listen(config.databaseUrl, WORK_CHANNEL, wake);

/** Takes what goes first in some queues, one job at a time. */
async function serve(names: QueueName[]): Promise<void> {
  while (!stopping) {
    let idle = true;
    try {
      const name = await context.queue.first(names);
      const job = name && (await context.queue.take(name, (tx, id) => jobs.taken(tx, name, id)));
      if (name && job) {
        idle = false;
        await settle(name, job.id, await outcomeOf(name, job.data));
      }
    } catch (error) {
      log.warn({ error: String(error) }, 'the database did not answer');
      await sleep(500);
    }
    if (idle && !stopping)
      await Promise.race([sleep(IDLE_MS), new Promise<void>((resolve) => void sleepers.add(resolve))]);
  }
}

/** Null when the job is done, or what went wrong. */
async function outcomeOf(name: QueueName, data: unknown): Promise<unknown> {
  const done = watchdog.begin(config.jobSeconds * 1000);
  try {
    await (handlers[name] as (data: unknown) => Promise<void>)(data);
    return null;
  } catch (error) {
    // What it was about was deleted meanwhile.
    if (error instanceof RequestError && error.status === 404) return null;
    return error ?? new Error('it failed without a word');
  } finally {
    done();
  }
}

/** Writes down how a job ended, however long the database is away. */
async function settle(name: QueueName, id: string, error: unknown): Promise<void> {
  const pause = storageFault(error) ? DISK_PAUSE_S : isAway(error) ? 0 : null;
  if (stopping) return;
  if (error && pause === null) log.error({ error: (error as Error).stack, name }, 'job failed and is tried again');
  else if (error) log.warn({ error: String(error), name }, 'work waits for the disk or the database');
  for (;;)
    try {
      if (error) await jobs.failed(name, id, sentence(tellError(error)), pause);
      else await jobs.done(name, id);
      return;
    } catch (failure) {
      if (!isAway(failure)) throw failure;
      await sleep(200);
    }
}

const sentence = (text: string) => (/[.!?]$/.test(text) ? text : `${text}.`);

process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  wake();
  // What is in hand is done again by another, with the same bits.
  const end = async () => {
    await jobs.giveBack().catch(() => {});
    await Promise.allSettled([work.stop(), jobs.stop(), context.queue.stop(), pool.end()]);
  };
  await Promise.race([end(), sleep(2000)]);
  process.exit(0);
}

log.info({ threads: threads.count }, 'worker ready');
// Two at once, so that the end of one batch does not leave threads idle; one of them leaves examinations, which take long, alone.
await Promise.all([serve(['predict', 'time', 'tiles', 'preflight']), serve(['preflight', 'tiles', 'examine'])]);
