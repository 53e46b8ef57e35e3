/**
 * Looks for causes in a base render and writes the findings down, once: a first look while it runs, and when it is done a step
 * for each family and one that puts in order what they found. See `examinations.ts`.
 */
import { and, eq } from 'drizzle-orm';
import prettyBytes from 'pretty-bytes';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import { EARLY_FAMILIES } from '../../core/diagnose/registry.ts';
import { lineOf } from '../../core/diagnose/stored.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import { samplesOf } from '../../core/render/film/rounds.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { examinations, findings, renders } from '../db/schema.ts';
import { isAway, storageFault, tellError } from '../errors.ts';
import { log } from '../log.ts';
import { shotChanged } from '../notify.ts';
import type { ExamineJob } from '../queue.ts';
import { failedLook, keepLook, looksOf } from './examinations.ts';
import { filmsOf } from './films.ts';
import { addLines } from './render-lines.ts';
import { lockRender, tileGroups, type RenderRow } from './renders.ts';
import type { Examined, ExamineTask } from './render-thread.ts';
import type { RenderThreads } from './render-threads.ts';
import type { Scenes } from './scenes.ts';

/** How soon a thread ends whose examination was cancelled or deleted. */
const LOOK_EVERY_MS = 500;

type Step = ExamineJob['step'];

/** A first look is of a render that runs, another step of one that waits for it. */
const isWanted = ({ examined, state }: RenderRow, step: Step): boolean =>
  step === 'first look' ? state === 'active' && examined === 'no' : examined === 'waiting';

/** Groups that every pixel has. */
const leastGroups = async ({ db }: Context, renderId: number): Promise<number> =>
  Math.min(...(await tileGroups(db, renderId)).values());

export async function examineRender(context: Context, scenes: Scenes, threads: RenderThreads, job: ExamineJob) {
  const [render] = await context.db.select().from(renders).where(eq(renders.id, job.renderId));
  const { step } = job;
  if (!render || !isWanted(render, step)) return;
  const watch = watchFor(context, render);
  try {
    // Before the films, which may have more by the time they are read.
    const samples = step === 'first look' ? samplesOf(await leastGroups(context, render.id)) : samplesOf(render.targetGroups); // prettier-ignore
    const known = step === 'arrange' ? await looksOf(context, render) : null;
    const families = step === 'first look' ? EARLY_FAMILIES : step === 'arrange' ? [] : [step];
    const task = await taskOf(context, scenes, render, samples, { families, found: known?.found ?? null });
    const { found, bytes } = await threads.run('examine', task, watch.signal).catch((error: unknown) => {
      const failed = watch.signal.aborted ? null : failedLook(step, tellError(error));
      if (!failed) throw error;
      log.error({ error: String(error), render: render.id, step }, 'a family could not look');
      return { found: [failed], bytes: 0 };
    });
    const most = Math.max(bytes, known?.bytes ?? 0);
    if (step === 'first look' || step === 'arrange')
      await writeFindings(context, render, step, task, { found, bytes: most }); // prettier-ignore
    else await keepLook(context, render, step, found, bytes);
  } catch (error) {
    if (watch.signal.aborted) return;
    if (isAway(error) || storageFault(error)) throw error;
    log.error({ error: String(error), render: render.id, step }, 'examining failed');
    // The whole picture is looked at still.
    if (step === 'first look') return;
    await context.db.transaction(async (tx) => {
      const message = `Causes could not be looked for: ${tellError(error)}`;
      const own = and(eq(renders.id, render.id), eq(renders.examined, 'waiting'));
      await tx.update(renders).set({ examined: 'failed', error: message }).where(own);
      await shotChanged(tx, render.shotId);
    });
  } finally {
    watch.end();
  }
}

async function taskOf(
  context: Context,
  scenes: Scenes,
  render: RenderRow,
  samples: number,
  asked: Pick<ExamineTask, 'families' | 'found'>,
): Promise<ExamineTask> {
  const films = await filmsOf(context, context.db, render.id);
  const { document, assets, scene, packed } = await scenes.get(render.versionId, [], render.sheet);
  return {
    scene,
    packed,
    document,
    assets,
    sheetName: render.sheet,
    sheet: { ...document.sheets[render.sheet], samples },
    films,
    pilotSeed: pilotSeed(render.id),
    ...asked,
  };
}

/** A signal for the moment when nobody wants the step any more. */
function watchFor({ db }: Context, { id, epoch }: RenderRow): { signal: AbortSignal; end: () => void } {
  const unwanted = new AbortController();
  const timer = setInterval(() => {
    db.select()
      .from(renders)
      .where(eq(renders.id, id))
      .then(
        // A first look that the render has outrun is told all the same.
        ([now]) => (!now || now.epoch !== epoch || now.examined === 'stopped') && unwanted.abort(),
        // A database that is away is asked again at the next look.
        () => {},
      );
  }, LOOK_EVERY_MS);
  return { signal: unwanted.signal, end: () => clearInterval(timer) };
}

async function writeFindings(
  { db, blobs }: Context,
  render: RenderRow,
  step: Step,
  { document, sheet: { samples } }: ExamineTask,
  { found, bytes }: Examined,
): Promise<void> {
  const isFirst = step === 'first look';
  const masks = await Promise.all(found.map(async ({ mask }) => mask && (await blobs.put(mask))));
  await db.transaction(async (tx) => {
    const now = await lockRender(tx, render.id);
    if (!isWanted(now, step) || now.epoch !== render.epoch) return;
    await insertFindings(tx, render, samples, found, masks);
    const look = isFirst ? `first look at ${samples} samples: ` : '';
    const message = `${look}${found.length} findings; the examination held ${prettyBytes(bytes)} at most`;
    await addLines(tx, render, document.frame, [{ severity: 'info', phase: 'examine', rays: null, message }]);
    if (!isFirst) {
      await tx.update(renders).set({ examined: 'done' }).where(eq(renders.id, render.id));
      await tx.delete(examinations).where(eq(examinations.renderId, render.id));
    }
    await shotChanged(tx, render.shotId);
  });
}

async function insertFindings(
  tx: Transaction,
  { id: renderId, shotId, versionId }: RenderRow,
  samples: number,
  found: FindingWithMask[],
  masks: (string | null)[],
): Promise<void> {
  if (!found.length) return;
  const rows = found.map(({ finding }, position) => ({
    shotId,
    versionId,
    renderId,
    key: finding.key,
    samples,
    body: canonicalText(finding),
    summary: canonicalText(lineOf(finding)),
    mask: masks[position],
    position,
  }));
  await tx.insert(findings).values(rows).onConflictDoNothing();
}
