/** Deleting and archiving. Rows go at once; the bytes go with the next collection, those that nothing else refers to. */
import { and, eq, inArray, or, sql, type SQL } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import {
  batches,
  decisions,
  examinations,
  findings,
  frameRanges,
  frameTimes,
  logDecisions,
  logs,
  looks,
  pictures,
  pictureSets,
  preflights,
  renderLines,
  renders,
  shots,
  sweeps,
  tiles,
  trials,
  versions,
} from '../db/schema.ts';
import { withSide } from '../db/sides.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { lockHead, type ShotRow } from '../versions/versions.ts';
import { collect } from './collect.ts';
import { forgetHeld } from './shot-storage.ts';

/** Bytes are gone a moment later, those at least that are not of this very moment. */
function collectSoon(context: Context): void {
  forgetHeld();
  setTimeout(() => void collect(context).catch(() => {}), 100);
}

/** Puts a shot out of the list, or back into it. Nothing of it is gone. */
export async function archiveShot({ db }: Context, code: string, archived: boolean): Promise<void> {
  await db.transaction(async (tx) => {
    const { shot } = await lockHead(tx, code);
    await tx.update(shots).set({ archivedAt: archived ? new Date() : null }).where(eq(shots.id, shot.id)); // prettier-ignore
    await shotChanged(tx, shot.id);
  });
}

/** @param confirm the shot's code once more: nothing brings it back */
export async function deleteShot(context: Context, code: string, confirm: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [known] = await tx.select().from(shots).where(eq(shots.code, code));
    if (known) await lockWorkOf(tx, eq(renders.shotId, known.id), eq(trials.shotId, known.id));
    const { shot } = await lockHead(tx, code);
    if (confirm !== code)
      throw conflict(`Deleting ${code} needs its code once more; "${confirm.slice(0, 80)}" was sent.`);
    const { id } = shot;
    await shotChanged(tx, id);
    const own = await tx.select({ id: renders.id }).from(renders).where(eq(renders.shotId, id));
    await tx.delete(decisions).where(eq(decisions.shotId, id));
    await tx.delete(trials).where(eq(trials.shotId, id));
    await tx.delete(sweeps).where(eq(sweeps.shotId, id));
    await deleteRenders(
      tx,
      own.map((render) => render.id),
    );
    await deleteFindings(tx, eq(findings.shotId, id));
    const ofIt = tx.select({ id: versions.id }).from(versions).where(eq(versions.shotId, id));
    await tx.delete(frameTimes).where(inArray(frameTimes.versionId, ofIt));
    await tx.delete(preflights).where(inArray(preflights.versionId, ofIt));
    const sets = tx.select({ id: pictureSets.id }).from(pictureSets).where(eq(pictureSets.shotId, id));
    await tx.delete(pictures).where(inArray(pictures.setId, sets));
    const whole: [PgTable, PgColumn][] = [
      [pictureSets, pictureSets.shotId],
      [looks, looks.shotId],
      [logs, logs.shotId],
      [logDecisions, logDecisions.shotId],
      [frameRanges, frameRanges.shotId],
      [versions, versions.shotId],
      [shots, shots.id],
    ];
    for (const [table, column] of whole) await tx.delete(table).where(eq(column, id));
  });
  collectSoon(context);
}

/** A version that nothing was made of, with its renders and trials. */
export async function deleteVersion(context: Context, versionId: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [version] = await tx.select().from(versions).where(eq(versions.id, versionId));
    if (!version) throw notFound(`version ${versionId}`);
    await lockWorkOf(tx, eq(renders.versionId, versionId), eq(trials.versionId, versionId));
    const shot = await lockShot(tx, version.shotId);
    if (shot.headVersionId === versionId)
      throw conflict(`Version ${version.number} of ${shot.code} is the current version.`);
    const [child] = await tx.select().from(versions).where(eq(versions.parentId, versionId)).limit(1);
    if (child)
      throw conflict(`Version ${child.number} was made from version ${version.number}: delete that one first.`);
    const tried = await tx.select({ id: trials.id }).from(trials).where(eq(trials.versionId, versionId));
    const ids = tried.map(({ id }) => id);
    await tx.delete(decisions).where(or(eq(decisions.versionId, versionId), ids.length ? inArray(decisions.trialId, ids) : sql`false`)); // prettier-ignore
    await tx.delete(trials).where(eq(trials.versionId, versionId));
    const own = await tx.select({ id: renders.id }).from(renders).where(eq(renders.versionId, versionId));
    await deleteRenders(
      tx,
      own.map(({ id }) => id),
    );
    await deleteFindings(tx, eq(findings.versionId, versionId));
    await tx.delete(frameTimes).where(eq(frameTimes.versionId, versionId));
    await tx.delete(preflights).where(eq(preflights.versionId, versionId));
    await tx.delete(versions).where(eq(versions.id, versionId));
    await shotChanged(tx, shot.id);
  });
  collectSoon(context);
}

/** A render that is over and no trial's side, with its findings; trials that these led to stay. */
export async function deleteRender(context: Context, renderId: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [render] = await tx.select().from(renders).where(eq(renders.id, renderId)).for('update');
    if (!render) throw notFound(`render ${renderId}`);
    if (render.state === 'active') throw conflict(`Render ${renderId} is still rendering. Stop it first.`);
    const [trial] = await tx
      .select()
      .from(trials)
      .where(and(eq(trials.shotId, render.shotId), withSide(renderId)))
      .limit(1);
    if (trial)
      throw conflict(`Render ${renderId} is one side of trial ${trial.number}, and is deleted with its version only.`);
    await deleteRenders(tx, [renderId]);
    await shotChanged(tx, render.shotId);
  });
  collectSoon(context);
}

/** Before the shot, in the order of all who keep a tile, a side or a forecast: what is being kept goes first, and is deleted with the rest. */
async function lockWorkOf(tx: Transaction, ofRenders: SQL, ofTrials: SQL): Promise<void> {
  await tx.select({ id: renders.id }).from(renders).where(ofRenders).orderBy(renders.id).for('update');
  await tx.select({ id: trials.id }).from(trials).where(ofTrials).orderBy(trials.id).for('update');
}

async function lockShot(tx: Transaction, id: number): Promise<ShotRow> {
  const [shot] = await tx.select().from(shots).where(eq(shots.id, id)).for('update');
  return shot;
}

async function deleteRenders(tx: Transaction, ids: number[]): Promise<void> {
  if (ids.length === 0) return;
  await deleteFindings(tx, inArray(findings.renderId, ids));
  for (const table of [tiles, renderLines, batches, examinations])
    await tx.delete(table).where(inArray(table.renderId, ids));
  await tx.delete(renders).where(inArray(renders.id, ids));
}

/** Findings with what was decided about them; trials that these led to stay. */
async function deleteFindings(tx: Transaction, which: SQL): Promise<void> {
  const found = tx.select({ id: findings.id }).from(findings).where(which);
  await tx.delete(decisions).where(inArray(decisions.findingId, found));
  await tx.update(trials).set({ findingId: null }).where(inArray(trials.findingId, found));
  await tx.delete(findings).where(which);
}
