/** What stands where the result of a job was to be, once it is not tried any more: a sentence, and how to go on. */
import { and, eq, inArray } from 'drizzle-orm';
import type { Context } from './context.ts';
import { frameTimes, preflights, renders, versions } from './db/schema.ts';
import { shotChanged } from './notify.ts';
import type { Jobs, QueueName } from './queue.ts';
import { lookGivenUp } from './render/examinations.ts';
import { failRender } from './render/renders.ts';
import { sideFailed } from './trials/trial-renders.ts';
import { failTrial } from './trials/trials.ts';

type Ends = { [N in QueueName]: (context: Context, job: Jobs[N], why: string) => Promise<void> };

const ends: Ends = {
  async tiles(context, { renderId }, why) {
    const sentence = `${why} Continue or restart the render once that is fixed.`;
    await failRender(context, renderId, sentence);
    await sideFailed(context, renderId, sentence);
  },
  async examine(context, { renderId, step }, why) {
    // The others go on.
    if (step !== 'first look' && step !== 'arrange') return lookGivenUp(context, renderId, step, why);
    await context.db.transaction(async (tx) => {
      const [row] = await tx
        .update(renders)
        .set({
          examined: 'failed',
          error: `Causes could not be examined. ${why}`,
        })
        .where(and(eq(renders.id, renderId), eq(renders.examined, 'waiting')))
        .returning();
      if (row) await shotChanged(tx, row.shotId);
    });
  },
  async predict(context, { trialIds }, why) {
    for (const id of trialIds) await failTrial(context, id, `It could not be predicted. ${why}`);
  },
  async preflight({ db }, { versionId }, why) {
    await db.transaction(async (tx) => {
      await tx
        .update(preflights)
        .set({ state: 'failed', error: `The shot could not be checked. ${why}` })
        .where(and(eq(preflights.versionId, versionId), eq(preflights.state, 'waiting')));
      const [version] = await tx.select().from(versions).where(eq(versions.id, versionId));
      if (version) await shotChanged(tx, version.shotId);
    });
  },
  async time({ db }, { versionIds, sheet }, why) {
    await db.transaction(async (tx) => {
      const own = and(inArray(frameTimes.versionId, versionIds), eq(frameTimes.sheet, sheet));
      await tx
        .update(frameTimes)
        .set({ state: 'failed', error: `It could not be measured. ${why}` })
        .where(own);
      const [version] = await tx.select().from(versions).where(eq(versions.id, versionIds[0]));
      if (version) await shotChanged(tx, version.shotId);
    });
  },
};

export const giveUp = <N extends QueueName>(context: Context, name: N, job: Jobs[N], why: string): Promise<void> =>
  ends[name](context, job, why);
