/** Sweeps: several values of one thing as trials of one region, which share the render without any of them. */
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Region } from '../../core/data/picture.ts';
import type { SweepRequest } from '../../core/contracts/requests.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { Context } from '../context.ts';
import { sidesOf } from '../db/sides.ts';
import { sweeps, trials } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { lockHead } from '../versions/versions.ts';
import { PREDICTION } from '../priorities.ts';
import { nextNumber } from './trials.ts';
import { stopUnneeded } from './trial-renders.ts';

/** @returns the sweep's id */
export async function createSweep(context: Context, code: string, request: SweepRequest): Promise<number> {
  return context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    const { sheet, title, pointer, steps } = request;
    const patches: string[] = [];
    let region: Region | null = null;
    for (const { label, values } of steps) {
      const task = { document: head.document, sheet, values, region: request.region };
      const tried = await context.documents.tryValues(task);
      if (tried.patch.length === 0)
        throw conflict(`“${label}” is the current value in the ${sheet} sheet: leave it out.`);
      patches.push(canonicalText(tried.patch));
      region = tried.region;
    }
    patches.forEach((patch, i) => {
      const first = patches.indexOf(patch);
      if (first < i) throw conflict(`“${steps[first].label}” and “${steps[i].label}” are the same change.`);
    });
    const [sweep] = await tx.insert(sweeps).values({ shotId: shot.id, title, pointer }).returning();
    const number = await nextNumber(tx, shot.id);
    const rows = await tx
      .insert(trials)
      .values(
        steps.map(({ label }, i) => ({
          shotId: shot.id,
          number: number + i,
          title: `${title} ${label}`,
          versionId: head.id,
          sheet,
          patch: patches[i],
          ...region!,
          state: 'predicting' as const,
          sweepId: sweep.id,
          step: label,
        })),
      )
      .returning();
    await context.queue.send(tx, 'predict', [{ trialIds: rows.map(({ id }) => id) }], PREDICTION);
    await shotChanged(tx, shot.id);
    return sweep.id;
  });
}

/** Stops what of it still runs; steps that are measured stay. */
export async function stopSweep(context: Context, id: number): Promise<void> {
  const stopped = await context.db.transaction(async (tx) => {
    const [sweep] = await tx.select().from(sweeps).where(eq(sweeps.id, id));
    if (!sweep) throw notFound(`sweep ${id}`);
    const running = await tx
      .select()
      .from(trials)
      .where(and(eq(trials.sweepId, id), inArray(trials.state, ['predicting', 'rendering'])))
      .orderBy(asc(trials.id))
      .for('update');
    if (running.length === 0) throw conflict(`Nothing of the sweep “${sweep.title}” is running.`);
    const ids = running.map((trial) => trial.id);
    await tx.update(trials).set({ state: 'stopped' }).where(inArray(trials.id, ids));
    await shotChanged(tx, sweep.shotId);
    return running;
  });
  await stopUnneeded(context, stopped.flatMap(sidesOf));
}
