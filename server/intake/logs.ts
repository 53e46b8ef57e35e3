/** Logs of a shot as rows: read as they come in, judged against the shot's files and what was decided for it. */
import { and, desc, eq } from 'drizzle-orm';
import type { LogDecisionRequest } from '../../core/contracts/requests.ts';
import { apart, type ApartOptions } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import { logDecisions, logs, profiles, renders, versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import type { ReceivedFile } from '../received.ts';
import { shotChanged } from '../notify.ts';
import { linesOf } from '../render/render-lines.ts';
import { shotByCode } from '../versions/versions.ts';

/** Texts of the show's own formats of logs, which are tried before those that ship. */
async function ownFormats({ db }: Context): Promise<string[]> {
  const own = await db.select({ body: profiles.body }).from(profiles).where(eq(profiles.kind, 'log-format'));
  return own.map(({ body }) => body);
}

/** @returns its number. Nothing is kept of a log that breaks off or is none. */
export async function addLog(
  context: Context,
  code: string,
  name: string,
  { place, bytes, gone }: ReceivedFile,
): Promise<number> {
  const shot = await shotByCode(context.db, code);
  const called = name.slice(0, 200);
  const task = { name: called, formats: await ownFormats(context), format: null, blobs: context.blobs.folder };
  const read = await apart('readLogFile', { ...task, from: { file: place } }, { bytes, gone });
  return context.db.transaction(async (tx) => {
    const [row] = await tx
      .insert(logs)
      .values({ shotId: shot.id, name: called, bytes, ...read })
      .returning({ id: logs.id });
    await shotChanged(tx, shot.id);
    return row.id;
  });
}

/** Reads a log again by a format of the name; null: by the one its lines tell. */
export async function readLogAgain(
  context: Context,
  id: number,
  format: string | null,
  options: ApartOptions,
): Promise<void> {
  const [row] = await context.db.select().from(logs).where(eq(logs.id, id));
  if (!row) throw notFound(`log ${id}`);
  if (row.blob === null) throw conflict(`The text of "${row.name}" was not kept. Bring it in again.`);
  const task = { name: row.name, formats: await ownFormats(context), format, blobs: context.blobs.folder };
  const from = { blob: row.blob };
  await change(
    context,
    row.shotId,
    id,
    await apart('readLogFile', { ...task, from }, { ...options, bytes: row.bytes }),
  );
}

/** Figures that came beside a log fill what it lacks. */
export async function addStatistics(
  context: Context,
  id: number,
  name: string,
  text: string,
  options: ApartOptions,
): Promise<void> {
  const [row] = await context.db.select().from(logs).where(eq(logs.id, id));
  if (!row) throw notFound(`log ${id}`);
  const statistics = await apart('readStatistics', { text, name: name.slice(0, 200) }, options);
  await change(context, row.shotId, id, { statistics });
}

async function change(context: Context, shotId: number, id: number, values: Partial<typeof logs.$inferInsert>) {
  await context.db.transaction(async (tx) => {
    await tx.update(logs).set(values).where(eq(logs.id, id));
    await shotChanged(tx, shotId);
  });
}

/** `ShotLog[]` as JSON, the newest first, that of our own newest render before them. */
export async function logsOf({ db }: Context, code: string, options: ApartOptions): Promise<string> {
  const shot = await shotByCode(db, code);
  const rows = await db.select().from(logs).where(eq(logs.shotId, shot.id)).orderBy(desc(logs.id));
  const decided = await db.select().from(logDecisions).where(eq(logDecisions.shotId, shot.id));
  const [head] = await db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const task = {
    manifest: head.manifest,
    document: head.document,
    decided,
    logs: rows.map(({ id, name, bytes, body, sample, statistics, createdAt }) => ({
      body,
      sample,
      statistics,
      told: { id, name, bytes, createdAt: createdAt.toISOString() },
    })),
    own: await ownLog(db, shot.id),
  };
  return apart('tellLogs', task, options);
}

/** The log of the newest base render, as far as it is. Its number is the render's, below 0. */
async function ownLog(db: Context['db'], shotId: number) {
  const [render] = await db
    .select()
    .from(renders)
    .where(and(eq(renders.shotId, shotId), eq(renders.purpose, 'base')))
    .orderBy(desc(renders.id))
    .limit(1);
  if (!render) return null;
  const { id, sheet, state, createdAt } = render;
  const told = { id: -id, name: `our ${sheet} render`, createdAt: createdAt.toISOString() };
  return { lines: await linesOf(db, id), isOver: state === 'failed', told };
}

export async function decideLog(
  context: Context,
  code: string,
  { key, harmless, why }: LogDecisionRequest,
): Promise<void> {
  await context.db.transaction(async (tx) => {
    const shot = await shotByCode(tx, code);
    await tx.delete(logDecisions).where(and(eq(logDecisions.shotId, shot.id), eq(logDecisions.key, key)));
    if (harmless !== null) await tx.insert(logDecisions).values({ shotId: shot.id, key, harmless, why });
    await shotChanged(tx, shot.id);
  });
}

export async function dropLog(context: Context, id: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [row] = await tx.delete(logs).where(eq(logs.id, id)).returning({ shotId: logs.shotId });
    if (!row) throw notFound(`log ${id}`);
    await shotChanged(tx, row.shotId);
  });
}
