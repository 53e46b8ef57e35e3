/** What runs and waits across all shots, in the order in which it is taken: trials, then the open shot, then the rest. */
import { asc, eq, inArray, or } from 'drizzle-orm';
import type { RunningWork } from '../../core/contracts/events.ts';
import { attendedShot } from '../attention.ts';
import type { Context } from '../context.ts';
import { renders, shots, trials, versions } from '../db/schema.ts';
import { sidesOf } from '../db/sides.ts';
import { lookedIn, LOOKING } from '../render/examinations.ts';
import type { RenderRow } from '../render/renders.ts';
import { REPEATABLE } from './state.ts';

/** @returns trials, base renders and examinations that are not done; empty where nothing is to do */
export async function runningWork({ db }: Context): Promise<RunningWork[]> {
  return db.transaction(async (tx) => {
    const open = await attendedShot(tx);
    const tried = await tx
      .select({ trial: trials, code: shots.code })
      .from(trials)
      .innerJoin(shots, eq(shots.id, trials.shotId))
      .where(inArray(trials.state, ['predicting', 'rendering']))
      .orderBy(asc(trials.id));
    const rendered = await tx
      .select({ render: renders, code: shots.code, version: versions.number })
      .from(renders)
      .innerJoin(shots, eq(shots.id, renders.shotId))
      .innerJoin(versions, eq(versions.id, renders.versionId))
      .where(or(eq(renders.state, 'active'), eq(renders.examined, 'waiting')))
      .orderBy(asc(renders.id));
    const examined = rendered.map(({ render }) => render).filter((render) => render.examined === 'waiting');
    const looked = await lookedIn(tx, examined);
    const ofTrials: Ranked[] = tried.map(({ trial, code }) => {
      const sides = rendered.filter(({ render: { id } }) => sidesOf(trial).includes(id));
      const done = sides.reduce((sum, { render }) => sum + shareOf(render), 0);
      return {
        kind: 'trial',
        id: trial.id,
        code,
        title: `Trial ${trial.number}: ${trial.title}`,
        progress: sides.length ? done / sides.length : 0,
        isFirst: trial.shotId === open,
        rank: 0,
      };
    });
    const ofRenders = rendered
      .filter(({ render }) => render.purpose !== 'trial')
      .map(({ render, code, version }): Ranked => {
        const isActive = render.state === 'active';
        const isFirst = render.shotId === open;
        return {
          kind: isActive ? 'render' : 'examination',
          id: render.id,
          code,
          title: `${isActive ? (render.frame === null ? 'render' : `frame ${render.frame}`) : 'examination'} of version ${version}, ${render.sheet}`,
          progress: isActive ? shareOf(render) : (looked.get(render.id)?.size ?? 0) / LOOKING.length,
          isFirst,
          rank: isFirst ? 1 : 2,
        };
      });
    return [...ofTrials, ...ofRenders].sort((a, b) => a.rank - b.rank).map(({ rank: _, ...one }) => one);
  }, REPEATABLE);
}

type Ranked = RunningWork & { rank: number };

const shareOf = ({ doneGroups, targetGroups, tileCount }: RenderRow): number => doneGroups / (targetGroups * tileCount);
