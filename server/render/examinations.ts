/**
 * The examination of a render: a job for each family, so that none holds up or fails the others, and one that puts in order
 * what all of them found. What a family found is kept until then: an examination that was cancelled, or whose process ended,
 * goes on with those that have not looked.
 */
import { and, eq, inArray } from 'drizzle-orm';
import { deserialize, serialize } from 'node:v8';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import type { FamilyId } from '../../core/diagnose/catalogue.ts';
import { FAMILIES } from '../../core/diagnose/registry.ts';
import { lookFailed } from '../../core/diagnose/run.ts';
import { favourOf } from '../attention.ts';
import type { Context } from '../context.ts';
import type { Database, Transaction } from '../db/database.ts';
import { examinations, renders } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { EXAMINATION, FIRST_LOOK } from '../priorities.ts';
import type { ExamineJob } from '../queue.ts';
import { lockRender, type RenderRow } from './renders.ts';

/** Families that look in renders. */
export const LOOKING = FAMILIES.filter(({ render }) => render !== undefined);

type Looked = Pick<RenderRow, 'id' | 'targetGroups'>;

const ofLook = ({ id, targetGroups }: Looked) =>
  and(eq(examinations.renderId, id), eq(examinations.groups, targetGroups));

export async function queueFirstLook({ queue }: Context, tx: Transaction, { id, shotId }: RenderRow): Promise<void> {
  const priority = FIRST_LOOK + (await favourOf(tx, shotId));
  await queue.send(tx, 'examine', [{ shotId, renderId: id, step: 'first look' }], priority);
}

/** Jobs for families that have not looked yet, or the one that puts in order what they found. */
export async function queueExamination({ queue }: Context, tx: Transaction, render: RenderRow): Promise<void> {
  const looked = new Set((await tx.select().from(examinations).where(ofLook(render))).map(({ family }) => family));
  const missing = LOOKING.map(({ id }) => id).filter((id) => !looked.has(id));
  const steps = missing.length ? missing : (['arrange'] as const);
  const priority = EXAMINATION + (await favourOf(tx, render.shotId));
  const jobs = steps.map((step) => ({ shotId: render.shotId, renderId: render.id, step }));
  await queue.send(tx, 'examine', jobs, priority);
}

/** Keeps what a family found, once; the last of them has it put in order. */
export async function keepLook(
  context: Context,
  { id, epoch }: Pick<RenderRow, 'id' | 'epoch'>,
  family: FamilyId,
  found: FindingWithMask[],
  bytes: number,
): Promise<void> {
  const blob = await context.blobs.put(serialize(found));
  await context.db.transaction(async (tx) => {
    const now = await lockRender(tx, id);
    if (now.examined !== 'waiting' || now.epoch !== epoch) return;
    const row = { renderId: id, groups: now.targetGroups, family, found: blob, bytes };
    const [kept] = await tx.insert(examinations).values(row).onConflictDoNothing().returning();
    if (kept && (await looks(tx, now)).length === LOOKING.length) await queueExamination(context, tx, now);
    await shotChanged(tx, now.shotId);
  });
}

/** A family could not look, and is not tried any more: that is said where its findings were to be. */
export async function lookGivenUp(context: Context, renderId: number, family: FamilyId, why: string): Promise<void> {
  const [render] = await context.db.select().from(renders).where(eq(renders.id, renderId));
  const failed = failedLook(family, why);
  if (render && failed) await keepLook(context, render, family, [failed], 0);
}

/** What stands for the findings of a family; null where the step is none. */
export function failedLook(step: ExamineJob['step'], why: string): FindingWithMask | null {
  const family = LOOKING.find(({ id }) => id === step);
  return family ? { finding: lookFailed(family, 'render', why), mask: null } : null;
}

const looks = (tx: Database | Transaction, render: Looked) => tx.select().from(examinations).where(ofLook(render));

/** What families found, in their order, and the most that one of them held. */
export async function looksOf(
  { db, blobs }: Context,
  render: Looked,
): Promise<{ found: FindingWithMask[]; bytes: number }> {
  const rows = await looks(db, render);
  const ordered = LOOKING.flatMap(({ id }) => rows.find(({ family }) => family === id) ?? []);
  const found = await Promise.all(ordered.map(async (row) => deserialize(await blobs.get(row.found)) as FindingWithMask[])); // prettier-ignore
  return { found: found.flat(), bytes: Math.max(0, ...ordered.map((row) => row.bytes)) };
}

/** Which families have looked in renders, by the render's id. */
export async function lookedIn(tx: Database | Transaction, rendered: Looked[]): Promise<Map<number, Set<FamilyId>>> {
  if (!rendered.length) return new Map();
  const groups = new Map(rendered.map(({ id, targetGroups }) => [id, targetGroups]));
  const rows = await tx
    .select({ renderId: examinations.renderId, groups: examinations.groups, family: examinations.family })
    .from(examinations)
    .where(inArray(examinations.renderId, [...groups.keys()]));
  const looked = new Map<number, Set<FamilyId>>();
  for (const row of rows)
    if (row.groups === groups.get(row.renderId)) looked.set(row.renderId, (looked.get(row.renderId) ?? new Set()).add(row.family)); // prettier-ignore
  return looked;
}

/** @throws RequestError 409 where nothing is looked for */
export async function stopExamination({ db }: Context, id: number): Promise<void> {
  await db.transaction(async (tx) => {
    const render = await lockRender(tx, id);
    if (render.examined !== 'waiting') throw conflict(`Causes are not being looked for in render ${id}.`);
    await tx.update(renders).set({ examined: 'stopped' }).where(eq(renders.id, id));
    await shotChanged(tx, render.shotId);
  });
}

/** Goes on with one that was cancelled, or failed. @throws RequestError 409 */
export async function resumeExamination(context: Context, id: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const render = await lockRender(tx, id);
    if (render.examined !== 'stopped' && render.examined !== 'failed')
      throw conflict(`The examination of render ${id} was not cancelled, and did not fail.`);
    await tx.update(renders).set({ examined: 'waiting', error: null }).where(eq(renders.id, id));
    await queueExamination(context, tx, render);
    await shotChanged(tx, render.shotId);
  });
}
