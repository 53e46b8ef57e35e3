/** Predicts a trial whose region or values no finding has computed, then begins it. */
import { and, desc, eq } from 'drizzle-orm';
import type { JsonPatch } from '../../core/document/patch.ts';
import { objectNames } from '../../core/document/object-names.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import type { Context } from '../context.ts';
import { renders, trials } from '../db/schema.ts';
import { shotChanged } from '../notify.ts';
import type { PredictJob } from '../queue.ts';
import { filmsOf } from '../render/films.ts';
import type { RenderThreads } from '../render/render-threads.ts';
import type { Scenes } from '../render/scenes.ts';
import { beginTrial, maskOf } from './trial-renders.ts';
import { failTrial } from './trials.ts';

export async function predictTrial(context: Context, scenes: Scenes, threads: RenderThreads, job: PredictJob) {
  const { db } = context;
  const [trial] = await db.select().from(trials).where(eq(trials.id, job.trialId));
  if (trial?.state !== 'predicting') return;
  try {
    const before = await scenes.get(trial.versionId, [], trial.sheet);
    const after = await scenes.get(trial.versionId, JSON.parse(trial.patch) as JsonPatch, trial.sheet);
    const [base] = await db
      .select()
      .from(renders)
      .where(
        and(
          eq(renders.versionId, trial.versionId),
          eq(renders.sheet, trial.sheet),
          eq(renders.purpose, 'base'),
          eq(renders.wholeFrame, true),
          eq(renders.state, 'done'),
        ),
      )
      .orderBy(desc(renders.id))
      .limit(1);
    const predicted = await threads.run('predict', {
      before: { scene: before.scene, packed: before.packed, sheet: before.document.sheets[trial.sheet] },
      after: { scene: after.scene, packed: after.packed, sheet: after.document.sheets[trial.sheet] },
      region: { x: trial.x, y: trial.y, width: trial.width, height: trial.height },
      mask: await maskOf(context, db, trial),
      films: base ? await filmsOf(context, db, base.id) : [],
      names: objectNames(before.document),
      seed: pilotSeed(trial.id),
    });
    await db.transaction(async (tx) => {
      const [now] = await tx.select().from(trials).where(eq(trials.id, trial.id)).for('update');
      if (now.state !== 'predicting') return;
      await beginTrial(context, tx, now, predicted);
      await shotChanged(tx, now.shotId);
    });
  } catch (error) {
    await failTrial(context, trial.id, `It could not be predicted: ${(error as Error).message}`);
  }
}
