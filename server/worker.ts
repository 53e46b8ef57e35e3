/** A worker process: takes work from the queue until it is told to stop. Any number may run, anywhere. */
import { setTimeout as sleep } from 'node:timers/promises';
import { join } from 'node:path';
import { BlobStore } from './blobs.ts';
import { config } from './config.ts';
import type { Context } from './context.ts';
import { connect } from './db/database.ts';
import { log } from './log.ts';
import { listen, WORK_CHANNEL } from './notify.ts';
import { Queue, type Jobs, type QueueName } from './queue.ts';
import { preflightVersion } from './intake/preflight-job.ts';
import { examineRender } from './render/examine-job.ts';
import { RenderThreads } from './render/render-threads.ts';
import { Scenes } from './render/scenes.ts';
import { renderBatch } from './render/tiles-job.ts';
import { timeVersions } from './budget/time-job.ts';
import { predictTrials } from './trials/predict-job.ts';
import { sweepBlobs } from './sweep.ts';
import { endWithParent } from './tied.ts';

/** How long to wait for work when nothing says there is some: also how soon an expired job is seen. */
const IDLE_MS = 1000;

// What is unfinished expires in the queue and is done again by another, with the same bits.
endWithParent();
const { db, pool } = connect(config.databaseUrl);
const context: Context = {
  db,
  blobs: new BlobStore(join(config.data, 'blobs')),
  queue: new Queue(config.databaseUrl),
};
const threads = new RenderThreads(config.threads);
const scenes = new Scenes(context);
await context.queue.start();

const handlers: { [N in QueueName]: (job: Jobs[N]) => Promise<void> } = {
  predict: (job) => predictTrials(context, scenes, threads, job),
  tiles: (job) => renderBatch(context, scenes, threads, job),
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

/** Takes jobs of some queues in turn, one at a time. */
async function serve(names: QueueName[]): Promise<void> {
  while (!stopping) {
    let idle = true;
    for (const name of names) {
      try {
        const job = await context.queue.take(name);
        if (!job) continue;
        idle = false;
        try {
          await (handlers[name] as (data: unknown) => Promise<void>)(job.data);
          await context.queue.done(name, job.id);
        } catch (error) {
          log.error({ error: (error as Error).stack, name, job: job.data }, 'job failed and will be tried again');
          await context.queue.failed(name, job.id, error);
          await sleep(500);
        }
      } catch (error) {
        log.warn({ error: String(error) }, 'the database did not answer');
        await sleep(500);
      }
    }
    if (idle && !stopping)
      await Promise.race([sleep(IDLE_MS), new Promise<void>((resolve) => void sleepers.add(resolve))]);
  }
}

process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  wake();
  // What is unfinished expires in the queue and is done again, with the same bits.
  await Promise.race([Promise.allSettled([work.stop(), context.queue.stop(), pool.end()]), sleep(2000)]);
  process.exit(0);
}

log.info({ threads: threads.count }, 'worker ready');
await sweepBlobs(context).catch((error: unknown) => log.warn({ error: String(error) }, 'sweeping blobs'));
// Two at once, so that the end of one batch does not leave threads idle.
await Promise.all([serve(['predict', 'time', 'tiles', 'preflight']), serve(['preflight', 'tiles', 'examine'])]);
