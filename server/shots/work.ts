/** What runs and waits across all shots, in the order in which it is taken: trials, then the open shot, then the rest. */
import { asc, eq, inArray } from 'drizzle-orm';
import type { RunningWork } from '../../core/contracts/events.ts';
import { attendedShot } from '../attention.ts';
import type { Context } from '../context.ts';
import { renders, shots, trials, versions } from '../db/schema.ts';
import { REPEATABLE } from './state.ts';

export async function runningWork({ db }: Context): Promise<RunningWork[]> {
  return db.transaction(async (tx) => {
    const open = await attendedShot(tx);
    const tried = await tx
      .select({ trial: trials, code: shots.code })
      .from(trials)
      .innerJoin(shots, eq(shots.id, trials.shotId))
      .where(inArray(trials.state, ['predicting', 'rendering']))
      .orderBy(asc(trials.id));
    const sides = tried.flatMap(({ trial }) => [trial.beforeRenderId, trial.afterRenderId]).filter((id) => id !== null);
    const rendered = await tx
      .select({ render: renders, code: shots.code, version: versions.number })
      .from(renders)
      .innerJoin(shots, eq(shots.id, renders.shotId))
      .innerJoin(versions, eq(versions.id, renders.versionId))
      .where(eq(renders.state, 'active'))
      .orderBy(asc(renders.id));
    const waiting = await tx
      .select({ render: renders, code: shots.code, version: versions.number })
      .from(renders)
      .innerJoin(shots, eq(shots.id, renders.shotId))
      .innerJoin(versions, eq(versions.id, renders.versionId))
      .where(eq(renders.examined, 'waiting'))
      .orderBy(asc(renders.id));
    const progressOf = (ids: (number | null)[]) => {
      const own = rendered.filter(({ render }) => ids.includes(render.id));
      return own.length ? own.reduce((sum, { render }) => sum + shareOf(render), 0) / own.length : 0;
    };
    const work: (Omit<RunningWork, 'isFirst'> & { shotId: number })[] = [
      ...tried.map(({ trial, code }) => ({ kind: 'trial' as const, id: trial.id, shotId: trial.shotId, code, title: `Trial ${trial.number}: ${trial.title}`, progress: progressOf([trial.beforeRenderId, trial.afterRenderId]) })),
      ...rendered
        .filter(({ render }) => !sides.includes(render.id))
        .map(({ render, code, version }) => ({ kind: 'render' as const, id: render.id, shotId: render.shotId, code, title: `${render.sheet} render of version ${version}`, progress: shareOf(render) })),
      ...waiting
        .filter(({ render }) => render.state !== 'active')
        .map(({ render, code, version }) => ({ kind: 'examination' as const, id: render.id, shotId: render.shotId, code, title: `examination of version ${version}, ${render.sheet}`, progress: null })),
    ]; // prettier-ignore
    const rank = ({ kind, shotId }: (typeof work)[number]) => (kind === 'trial' ? 0 : shotId === open ? 1 : 2);
    return work.sort((a, b) => rank(a) - rank(b)).map(({ shotId, ...one }) => ({ ...one, isFirst: shotId === open }));
  }, REPEATABLE);
}

const shareOf = ({ doneGroups, targetGroups, tileCount }: typeof renders.$inferSelect): number =>
  targetGroups * tileCount > 0 ? doneGroups / (targetGroups * tileCount) : 0;
