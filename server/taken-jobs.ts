/**
 * Which worker process has which job in hand, and how often each went wrong. A process holds a lock by its number for as
 * long as it is connected: PostgreSQL gives the lock back the moment the process is gone, so that whoever looks next
 * knows its jobs are nobody's, without heartbeats and without waiting for them to expire.
 */
import { randomInt } from 'node:crypto';
import { eq, inArray, sql } from 'drizzle-orm';
import pg from 'pg';
import type { Database, Transaction } from './db/database.ts';
import { takenJobs } from './db/schema.ts';
import { isAway } from './errors.ts';
import { log } from './log.ts';
import type { Queue, QueueName } from './queue.ts';

/** First of the two numbers of a process's lock. */
const LOCKS = 814_200_118;
/** Errors of one job after which it is given up, and processes that end with it in hand. */
const MOST_ERRORS = 5;
const MOST_DEATHS = 5;
/** Before the first retry; doubled for each. */
const FIRST_PAUSE_S = 0.5;

/** What becomes of a job that is not tried any more. */
export type GiveUp = (name: QueueName, data: unknown, why: string) => Promise<void>;

export class TakenJobs {
  private readonly worker = randomInt(1, 2 ** 31 - 1);
  private holder: pg.Client | null = null;
  private stopped = false;
  private timer: NodeJS.Timeout | null = null;
  /** Processes that held no lock at the last look. */
  private missed = new Set<number>();

  constructor(
    private readonly url: string,
    private readonly db: Database,
    private readonly queue: Queue,
    private readonly giveUp: GiveUp,
  ) {}

  /** Takes the process's lock; resolves when it is held. Taken again whenever the connection is lost. */
  async hold(): Promise<void> {
    while (!this.stopped) {
      const client = new pg.Client({ connectionString: this.url });
      const again = () => {
        if (this.holder !== client || this.stopped) return;
        this.holder = null;
        void this.hold();
      };
      client.on('error', again);
      client.on('end', again);
      try {
        await client.connect();
        await client.query('select pg_advisory_lock($1, $2)', [LOCKS, this.worker]);
        this.holder = client;
        return;
      } catch (error) {
        log.warn({ error: String(error) }, 'the lock of this process is taken again soon');
        await client.end().catch(() => {});
        await new Promise((resolve) => setTimeout(resolve, 300));
      }
    }
  }

  async taken(tx: Transaction, queue: QueueName, jobId: string): Promise<void> {
    const { worker } = this;
    await tx
      .insert(takenJobs)
      .values({ jobId, queue, worker })
      .onConflictDoUpdate({ target: takenJobs.jobId, set: { worker } });
  }

  async done(name: QueueName, jobId: string): Promise<void> {
    await this.queue.done(name, jobId);
    await this.db.delete(takenJobs).where(eq(takenJobs.jobId, jobId));
  }

  /**
   * A job whose work threw: tried again after a pause, five times in all.
   * @param why as a sentence
   * @param pause seconds where it is not the job's fault, and does not count
   */
  async failed(name: QueueName, jobId: string, why: string, pause: number | null = null): Promise<void> {
    const mostErrors = await this.db.transaction(async (tx) => {
      const [row] = await tx
        .update(takenJobs)
        .set({ worker: null, errors: pause === null ? sql`${takenJobs.errors} + 1` : takenJobs.errors })
        .where(eq(takenJobs.jobId, jobId))
        .returning();
      if (row && row.errors >= MOST_ERRORS) return row.errors;
      await this.queue.retry(tx, name, jobId, pause ?? FIRST_PAUSE_S * 2 ** ((row?.errors ?? 1) - 1));
      return null;
    });
    if (mostErrors !== null) await this.end(name, jobId, `${why} It was tried ${mostErrors} times.`);
  }

  /**
   * Gives back what processes had in hand that are gone: those that hold no lock at two looks running, for one whose
   * connection dropped takes its lock again within that time.
   */
  async releaseDead(): Promise<void> {
    const { rows: gone } = await this.db.execute<{ worker: number }>(sql`
      select distinct worker from taken_jobs
      where worker is not null and worker <> ${this.worker} and worker not in (
        select objid::bigint from pg_locks
        where locktype = 'advisory' and classid = ${LOCKS} and objsubid = 2 and granted
          and database = (select oid from pg_database where datname = current_database()))`);
    const dead = gone.map(({ worker }) => worker).filter((worker) => this.missed.has(worker));
    this.missed = new Set(gone.map(({ worker }) => worker));
    if (!dead.length) return;
    const released = await this.db.transaction(async (tx) => {
      const rows = await tx
        .update(takenJobs)
        .set({ worker: null, deaths: sql`${takenJobs.deaths} + 1` })
        .where(inArray(takenJobs.worker, dead))
        .returning();
      for (const { jobId, queue, deaths } of rows)
        if (deaths < MOST_DEATHS) await this.queue.retry(tx, queue as QueueName, jobId, 0);
      return rows;
    });
    for (const { jobId, queue, deaths } of released) {
      log.warn({ queue, jobId, deaths }, 'its process ended; it is done again');
      if (deaths < MOST_DEATHS) continue;
      const why = `The process that worked on it ended ${deaths} times, as it does when memory runs out.`;
      await this.end(queue as QueueName, jobId, why);
    }
  }

  /** Looks for them every second, whatever else this process does; one look at a time, so that two running are a second apart. */
  watch(): void {
    const look = async () => {
      try {
        await this.releaseDead();
      } catch (error) {
        if (!isAway(error)) log.error({ error: String(error) }, 'releasing jobs');
      }
      if (!this.stopped) this.timer = setTimeout(() => void look(), 1000);
    };
    void look();
  }

  private async end(name: QueueName, jobId: string, why: string): Promise<void> {
    const data = await this.queue.data(name, jobId);
    if (data) await this.giveUp(name, data, why);
    await this.done(name, jobId);
  }

  /** Gives back what this process has in hand, which is to end. */
  async giveBack(): Promise<void> {
    const mine = eq(takenJobs.worker, this.worker);
    for (const { queue, jobId } of await this.db.update(takenJobs).set({ worker: null }).where(mine).returning())
      await this.queue.retry(this.db, queue as QueueName, jobId, 0);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.holder?.end().catch(() => {});
  }
}
