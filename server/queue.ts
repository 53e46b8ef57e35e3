/**
 * The queue of work, in PostgreSQL through pg-boss. Any number of worker processes take from it.
 *
 * Jobs are short and may run twice: what a worker that died had in hand is done again by another with the same bits, at
 * once where its lock tells (see `taken-jobs.ts`), and when the job expires otherwise. Jobs are sent inside the
 * transaction that made them necessary.
 */
import { sql } from 'drizzle-orm';
import type pg from 'pg';
import PgBoss from 'pg-boss';
import type { FamilyId } from '../core/diagnose/catalogue.ts';
import type { SheetName } from '../core/document/schema.ts';
import type { Database, Transaction } from './db/database.ts';
import { log } from './log.ts';

/** Each queue's jobs, and how long one may take before another worker does it again, seconds. */
const QUEUES = {
  tiles: { expireInSeconds: 12 },
  examine: { expireInSeconds: 120 },
  predict: { expireInSeconds: 60 },
  preflight: { expireInSeconds: 120 },
  time: { expireInSeconds: 300 },
} as const;
export type QueueName = keyof typeof QUEUES;

/** Jobs that are sent together keep their order, up to so many. */
const PLACES = 10_000;

export interface TilesJob {
  shotId: number;
  renderId: number;
  epoch: number;
  /** Names this batch and round; what follows it is queued once. */
  batch: string;
  tiles: number[];
  /** Groups that the tiles are to reach in this round. */
  groups: number;
}
export interface ExamineJob {
  shotId: number;
  renderId: number;
  /**
   * The family that looks; `first look`: those that need no picture without noise, while the render runs, at what pixels have so far;
   * `arrange`: all have looked, and what they found is put in order.
   */
  step: FamilyId | 'first look' | 'arrange';
}
export interface PredictJob {
  /** Of one version, sheet and region. */
  trialIds: number[];
}
export interface PreflightJob {
  versionId: number;
}
export interface TimeJob {
  versionIds: number[];
  sheet: SheetName;
}
export interface Jobs {
  tiles: TilesJob;
  examine: ExamineJob;
  predict: PredictJob;
  preflight: PreflightJob;
  time: TimeJob;
}

export class Queue {
  private readonly boss: PgBoss;

  private constructor(
    pool: pg.Pool,
    private readonly db: Database,
  ) {
    this.boss = new PgBoss({
      db: { executeSql: (text, values) => pool.query(text, values) },
      schedule: false,
      maintenanceIntervalSeconds: 3,
      archiveCompletedAfterSeconds: 3600,
      deleteAfterHours: 12,
    });
    this.boss.on('error', (error) => log.error({ error }, 'queue'));
  }

  /** @param pool connections that it shares with everything else, and the database over them */
  static async begin(pool: pg.Pool, db: Database): Promise<Queue> {
    const queue = new Queue(pool, db);
    try {
      await queue.start();
      return queue;
    } catch (error) {
      await queue.stop().catch(() => {});
      throw error;
    }
  }

  private async start(): Promise<void> {
    await this.boss.start();
    for (const [name, { expireInSeconds }] of Object.entries(QUEUES)) {
      const options = { name, policy: 'standard' as const, retryLimit: 1000, retryDelay: 0, expireInSeconds };
      // Creating leaves a queue that is there as it was.
      await this.boss.createQueue(name, options);
      await this.boss.updateQueue(name, options);
    }
  }

  stop(): Promise<void> {
    return this.boss.stop({ graceful: false, wait: false, close: false } as PgBoss.StopOptions);
  }

  /** Queues jobs with the transaction: they exist if it does. Higher priorities are taken first, each job before the next. */
  async send<N extends QueueName>(tx: Transaction | Database, name: N, jobs: Jobs[N][], priority = 0): Promise<void> {
    if (jobs.length === 0) return;
    await this.boss.insert(
      jobs.map((data, i) => ({
        name,
        data,
        priority: priority * PLACES - Math.min(i, PLACES - 1),
        retryLimit: 1000,
        expireInSeconds: QUEUES[name].expireInSeconds,
      })),
      { db: sqlOf(tx) } as PgBoss.InsertOptions,
    );
    await tx.execute(sql`select pg_notify('dusting_work', ${name})`);
  }

  /**
   * The next job, marked as ours for as long as its queue allows.
   * @param note who took it, in the same transaction: a process that ends between would leave a job that nobody knows of
   */
  take<N extends QueueName>(
    name: N,
    note: (tx: Transaction, id: string) => Promise<void>,
  ): Promise<{ id: string; data: Jobs[N] } | null> {
    return this.db.transaction(async (tx) => {
      const options = { priority: true, db: sqlOf(tx) } as PgBoss.FetchOptions;
      const [job] = await this.boss.fetch<Jobs[N]>(name, options);
      if (!job) return null;
      await note(tx, job.id);
      return { id: job.id, data: job.data };
    });
  }

  /** Which of some queues has what goes first; null: there is nothing to do. */
  async first(names: readonly QueueName[]): Promise<QueueName | null> {
    const list = sql.join(
      names.map((name) => sql`${name}`),
      sql`, `,
    );
    const { rows } = await this.db.execute(
      sql`select name from pgboss.job where name in (${list}) and state < 'active' and start_after <= now() order by priority desc, created_on limit 1`,
    );
    return ((rows[0] as { name: QueueName } | undefined)?.name ?? null) as QueueName | null;
  }

  /** Moves what is queued for one shot before the rest, and what was moved for another back. @param by so much */
  async favour(tx: Transaction, shotId: number, by: number): Promise<void> {
    const places = by * PLACES;
    const waiting = sql`state < 'active' and name in ('tiles', 'examine')`;
    // Work of no favour is below half of it, and favoured work above; trials are above both.
    await tx.execute(
      sql`update pgboss.job set priority = priority - ${places} where ${waiting} and priority between ${places / 2} and ${places + places / 2} and (data->>'shotId')::int <> ${shotId}`,
    );
    await tx.execute(
      sql`update pgboss.job set priority = priority + ${places} where ${waiting} and priority < ${places / 2} and (data->>'shotId')::int = ${shotId}`,
    );
  }

  async done(name: QueueName, id: string): Promise<void> {
    await this.boss.complete(name, id);
  }

  /** It is tried again, by whoever takes it first. @param seconds from now */
  async retry(tx: Transaction | Database, name: QueueName, id: string, seconds: number): Promise<void> {
    await this.boss.fail(name, id, null as unknown as object, { db: sqlOf(tx) } as PgBoss.ConnectionOptions);
    await tx.execute(
      sql`update pgboss.job set start_after = now() + ${seconds} * interval '1 second' where name = ${name} and id = ${id}::uuid and state = 'retry'`,
    );
    if (seconds === 0) await tx.execute(sql`select pg_notify('dusting_work', ${name})`);
  }

  async data<N extends QueueName>(name: N, id: string): Promise<Jobs[N] | null> {
    return ((await this.boss.getJobById<Jobs[N]>(name, id))?.data as Jobs[N] | undefined) ?? null;
  }
}

/** pg-boss writes `$1`-numbered SQL; drizzle's session runs it inside the transaction. */
function sqlOf(tx: Transaction | Database): PgBoss.Db {
  return {
    async executeSql(text: string, values: unknown[] = []) {
      const chunks = text.split(/\$(\d+)/);
      const query = sql.empty();
      chunks.forEach((chunk, i) =>
        query.append(i % 2 ? sql`${sql.param(values[Number(chunk) - 1] ?? null)}` : sql.raw(chunk)),
      );
      const result = await tx.execute(query);
      return { rows: result.rows as unknown[] };
    },
  };
}
