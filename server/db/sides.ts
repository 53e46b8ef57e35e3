/**
 * Renders that a trial compares: one without its change and one with it. What a trial renders apart, with some objects alone, is
 * added into the one with the change: whoever asks for that gets both together.
 */
import { eq, isNotNull, and, or, type SQL } from 'drizzle-orm';
import type { Database, Transaction } from './database.ts';
import { renders, trials } from './schema.ts';

type RenderRow = typeof renders.$inferSelect;
type Sides = Pick<typeof trials.$inferSelect, 'beforeRenderId' | 'afterRenderId' | 'aloneRenderId'>;

/** Ids of all that a trial renders. */
export const sidesOf = ({ beforeRenderId, afterRenderId, aloneRenderId }: Sides): number[] =>
  [beforeRenderId, afterRenderId, aloneRenderId].filter((id) => id !== null);

/** Trials that have a render. */
export const withSide = (renderId: number): SQL =>
  or(eq(trials.beforeRenderId, renderId), eq(trials.afterRenderId, renderId), eq(trials.aloneRenderId, renderId))!;

/** What is added into a render; null: nothing. */
export async function addedTo(tx: Transaction | Database, renderId: number): Promise<number | null> {
  const [trial] = await tx
    .select({ id: trials.aloneRenderId })
    .from(trials)
    .where(and(eq(trials.afterRenderId, renderId), isNotNull(trials.aloneRenderId)));
  return trial?.id ?? null;
}

const unfinished = (a: RenderRow, b: RenderRow): RenderRow => (a.state === 'done' ? b : a);

/** A render and what is added into it, told as one: of the work of both, and done when both are. */
export function rowTogether(render: RenderRow, added: RenderRow): RenderRow {
  const { state, error, finishedAt } = unfinished(render, added);
  const share = added.doneGroups / (added.tileCount * added.targetGroups);
  return {
    ...render,
    state,
    error,
    finishedAt,
    doneGroups: Math.floor((render.doneGroups + share * render.tileCount * render.targetGroups) / 2),
    revision: render.revision + added.revision,
    rays: render.rays + added.rays,
    ms: render.ms + added.ms,
  };
}
