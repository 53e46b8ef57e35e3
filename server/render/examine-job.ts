/** Looks for causes in a base render and writes the findings down, once: a first look while it runs, and all of it when it is done. */
import { eq } from 'drizzle-orm';
import { EARLY_FAMILIES } from '../../core/diagnose/registry.ts';
import { lineOf } from '../../core/diagnose/stored.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import { tellBytes } from '../../core/render/film/frame-bytes.ts';
import { samplesOf } from '../../core/render/film/rounds.ts';
import type { Context } from '../context.ts';
import { findings, renders } from '../db/schema.ts';
import { isAway, storageFault, tellError } from '../errors.ts';
import { log } from '../log.ts';
import { shotChanged } from '../notify.ts';
import type { ExamineJob } from '../queue.ts';
import { filmsOf } from './films.ts';
import { addLines } from './render-lines.ts';
import { lockRender, tileGroups, type RenderRow } from './renders.ts';
import type { RenderThreads } from './render-threads.ts';
import type { Scenes } from './scenes.ts';

/** A first look is of a render that runs, another of one that waits for it. */
const isWanted = ({ examined, state }: RenderRow, firstLook: boolean): boolean =>
  firstLook ? state === 'active' && examined === 'no' : examined === 'waiting';

/** Groups that every pixel has. */
const leastGroups = async ({ db }: Context, renderId: number): Promise<number> =>
  Math.min(...(await tileGroups(db, renderId)).values());

export async function examineRender(context: Context, scenes: Scenes, threads: RenderThreads, job: ExamineJob) {
  const { db } = context;
  const [render] = await db.select().from(renders).where(eq(renders.id, job.renderId));
  const { firstLook = false } = job;
  if (!render || !isWanted(render, firstLook)) return;
  try {
    // Before the films, which may have more by the time they are read.
    const samples = firstLook ? samplesOf(await leastGroups(context, render.id)) : samplesOf(render.targetGroups);
    const films = await filmsOf(context, db, render.id);
    const { document, assets, scene, packed } = await scenes.get(render.versionId, [], render.sheet);
    const { found, bytes } = await threads.run('examine', {
      scene,
      packed,
      document,
      assets,
      sheetName: render.sheet,
      sheet: { ...document.sheets[render.sheet], samples },
      films,
      families: firstLook ? EARLY_FAMILIES : null,
      pilotSeed: pilotSeed(render.id),
    });
    const masks = await Promise.all(found.map(async ({ mask }) => mask && (await context.blobs.put(mask))));
    await db.transaction(async (tx) => {
      const now = await lockRender(tx, render.id);
      if (!isWanted(now, firstLook) || now.epoch !== render.epoch) return;
      if (found.length)
        await tx
          .insert(findings)
          .values(
            found.map(({ finding }, position) => ({
              shotId: render.shotId,
              versionId: render.versionId,
              renderId: render.id,
              key: finding.key,
              samples,
              body: canonicalText(finding),
              summary: canonicalText(lineOf(finding)),
              mask: masks[position],
              position,
            })),
          )
          .onConflictDoNothing();
      const look = firstLook ? `first look at ${samples} samples: ` : '';
      const message = `${look}${found.length} findings; the examination held ${tellBytes(bytes)} at most`;
      await addLines(tx, render, document.frame, [{ severity: 'info', phase: 'examine', rays: null, message }]);
      if (!firstLook) await tx.update(renders).set({ examined: 'done' }).where(eq(renders.id, render.id));
      await shotChanged(tx, render.shotId);
    });
  } catch (error) {
    if (isAway(error) || storageFault(error)) throw error;
    log.error({ error: String(error), render: render.id }, 'examining failed');
    // The whole picture is looked at still.
    if (firstLook) return;
    await db.transaction(async (tx) => {
      const message = `Causes could not be looked for: ${tellError(error)}`;
      await tx.update(renders).set({ examined: 'failed', error: message }).where(eq(renders.id, render.id));
      await shotChanged(tx, render.shotId);
    });
  }
}
