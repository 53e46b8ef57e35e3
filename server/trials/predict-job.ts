/** Predicts trials whose region or values no finding has computed, those of a sweep together, then begins them. */
import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { JsonPatch } from '../../core/document/patch.ts';
import { objectNames } from '../../core/document/object-names.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import type { Context } from '../context.ts';
import { renders, trials } from '../db/schema.ts';
import { isAway, tellError } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import type { PredictJob } from '../queue.ts';
import { filmsOf } from '../render/films.ts';
import type { RenderThreads } from '../render/render-threads.ts';
import type { Scenes } from '../render/scenes.ts';
import { beginTrials, maskOf } from './trial-renders.ts';
import { failTrial } from './trials.ts';

type Loaded = Awaited<ReturnType<Scenes['get']>>;

export async function predictTrials(context: Context, scenes: Scenes, threads: RenderThreads, job: PredictJob) {
  const { db } = context;
  const waiting = () => and(inArray(trials.id, job.trialIds), eq(trials.state, 'predicting'));
  const rows = await db.select().from(trials).where(waiting()).orderBy(asc(trials.id));
  if (rows.length === 0) return;
  const [lead] = rows;
  try {
    const load = (patch: JsonPatch, files: Record<string, string> = {}) => scenes.get(lead.versionId, patch, lead.sheet, files); // prettier-ignore
    const sideOf = ({ document, scene, packed }: Loaded) => ({ scene, packed, sheet: document.sheets[lead.sheet] });
    const unchanged = await load([]);
    const afters = [];
    for (const { patch, files, alonePatch } of rows) {
      const after = await load(JSON.parse(patch) as JsonPatch, JSON.parse(files) as Record<string, string>);
      const alone = alonePatch === null ? null : await load(JSON.parse(alonePatch) as JsonPatch);
      afters.push({ ...sideOf(after), ...(alone && { alone: sideOf(alone) }) });
    }
    const [base] = await db
      .select()
      .from(renders)
      .where(
        and(
          eq(renders.versionId, lead.versionId),
          eq(renders.sheet, lead.sheet),
          eq(renders.purpose, 'base'),
          eq(renders.wholeFrame, true),
          eq(renders.state, 'done'),
        ),
      )
      .orderBy(desc(renders.id))
      .limit(1);
    const predicted = await threads.run('predict', {
      before: sideOf(unchanged),
      afters,
      region: { x: lead.x, y: lead.y, width: lead.width, height: lead.height },
      mask: await maskOf(context, db, lead),
      films: base ? await filmsOf(context, db, base.id) : [],
      names: objectNames(unchanged.document),
      seed: pilotSeed(lead.id),
    });
    await db.transaction(async (tx) => {
      const now = await tx.select().from(trials).where(waiting()).orderBy(asc(trials.id)).for('update');
      if (now.length === 0) return;
      const effectOf = new Map(rows.map(({ id }, i) => [id, predicted[i]]));
      await beginTrials(context, tx, now, now.map(({ id }) => effectOf.get(id)!)); // prettier-ignore
      await shotChanged(tx, lead.shotId);
    });
  } catch (error) {
    if (isAway(error)) throw error;
    for (const { id } of rows) await failTrial(context, id, `It could not be predicted: ${tellError(error)}`);
  }
}
