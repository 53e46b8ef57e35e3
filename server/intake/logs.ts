/** Logs of a shot: read as they come in, judged against the shot's files and what was decided for it. */
import { and, desc, eq } from 'drizzle-orm';
import type { Request } from 'express';
import { createGunzip, gzipSync } from 'node:zlib';
import { StringDecoder } from 'node:string_decoder';
import type { ShotLog } from '../../core/contracts/intake.ts';
import type { LogDecisionRequest } from '../../core/contracts/requests.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { normalise } from '../../core/formats/paths.ts';
import type { LogFormat } from '../../core/intake/log/format.ts';
import type { LogEvidence } from '../../core/intake/log/meanings.ts';
import { ownFormat } from '../../core/intake/log/formats/own.ts';
import { LogReading, type ReadLog } from '../../core/intake/log/read.ts';
import { parseStatistics, withStatistics, type Statistics } from '../../core/intake/log/statistics.ts';
import { LogStream } from '../../core/intake/log/stream.ts';
import { triage } from '../../core/intake/log/triage.ts';
import { referencedFiles } from '../../core/render/load-assets.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { logDecisions, logs, renders, versions } from '../db/schema.ts';
import { conflict, notFound, RequestError } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { linesOf } from '../render/render-lines.ts';
import { shotByCode } from '../shots/versions.ts';
import { logFormats } from './profiles.ts';

/** Lines of a log that a page tries formats on. */
const SAMPLE = 200;

/** @returns its number. Nothing is kept of a log that breaks off or is none. */
export async function addLog(context: Context, code: string, name: string, request: Request): Promise<number> {
  const shot = await shotByCode(context.db, code);
  const called = name.slice(0, 200);
  const text = await context.blobs.begin();
  let bytes = 0;
  const metered = async function* () {
    for await (const piece of request as AsyncIterable<Buffer>) {
      bytes += piece.length;
      if (bytes > config.uploadLimit)
        throw new RequestError(
          413,
          `The log is larger than ${config.uploadLimit} bytes, the most this server takes. Nothing was kept.`,
        );
      // Members of gzip one after the other are one: each piece is packed as it comes.
      await text.write(gzipSync(piece, { level: 1 }));
      yield piece;
    }
  };
  try {
    const read = await readPieces(called, metered(), await logFormats(context.db));
    const blob = await text.keep();
    return await context.db.transaction(async (tx) => {
      const values = { shotId: shot.id, name: called, bytes, blob, ...rowOf(read) };
      const [row] = await tx.insert(logs).values(values).returning({ id: logs.id });
      await shotChanged(tx, shot.id);
      return row.id;
    });
  } catch (error) {
    await text.drop().catch(() => {});
    throw refusal(error);
  }
}

/** Reads a log again by a format of the name; null: by the one its lines tell. */
export async function readLogAgain(context: Context, id: number, format: string | null): Promise<void> {
  const [row] = await context.db.select().from(logs).where(eq(logs.id, id));
  if (!row) throw notFound(`log ${id}`);
  if (row.blob === null) throw conflict(`The text of "${row.name}" was not kept. Bring it in again.`);
  const known = await logFormats(context.db);
  const formats = format === null ? known : known.filter((one) => one.name === format);
  if (formats.length === 0) throw notFound(`format of logs "${format!.slice(0, 80)}"`);
  const pieces = context.blobs.stream(row.blob).pipe(createGunzip()) as AsyncIterable<Buffer>;
  const read = await readPieces(row.name, pieces, formats, format !== null).catch((error: unknown) => {
    throw refusal(error);
  });
  await change(context, row.shotId, id, rowOf(read));
}

/** Figures that came beside a log fill what it lacks. */
export async function addStatistics(context: Context, id: number, name: string, text: string): Promise<void> {
  const [row] = await context.db.select().from(logs).where(eq(logs.id, id));
  if (!row) throw notFound(`log ${id}`);
  await change(context, row.shotId, id, { statistics: JSON.stringify(parseStatistics(text, name.slice(0, 200))) });
}

async function change(context: Context, shotId: number, id: number, values: Partial<typeof logs.$inferInsert>) {
  await context.db.transaction(async (tx) => {
    await tx.update(logs).set(values).where(eq(logs.id, id));
    await shotChanged(tx, shotId);
  });
}

const rowOf = ({ log, sample }: { log: ReadLog; sample: string[] }) => ({
  body: JSON.stringify(log),
  sample: JSON.stringify(sample),
});

async function readPieces(name: string, pieces: AsyncIterable<Buffer>, formats: LogFormat[], isGiven = false) {
  const stream = new LogStream(name, formats, isGiven);
  let decoder: StringDecoder | null = null;
  let head = '';
  for await (const piece of pieces) {
    decoder ??= new StringDecoder(piece[0] === 0xff && piece[1] === 0xfe ? 'utf16le' : 'utf8');
    const text = decoder.write(piece);
    if (head.length < 2 ** 16) head += text;
    stream.push(text);
  }
  return { log: stream.end(), sample: head.split('\n', SAMPLE).map((line) => line.slice(0, 1000)) };
}

function refusal(error: unknown): unknown {
  return error instanceof RangeError ? new RequestError(400, `${error.message} Nothing was kept.`) : error;
}

export async function logsOf({ db }: Context, code: string): Promise<ShotLog[]> {
  const shot = await shotByCode(db, code);
  const rows = await db.select().from(logs).where(eq(logs.shotId, shot.id)).orderBy(desc(logs.id));
  const decided = await db.select().from(logDecisions).where(eq(logDecisions.shotId, shot.id));
  const [head] = await db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const evidence = evidenceOf(JSON.parse(head.manifest) as object, JSON.parse(head.document) as ShotDocument);
  const own = await ownLog(db, shot.id);
  const kept = rows.map(({ id, name, bytes, body, sample, statistics, createdAt }) => {
    const read = JSON.parse(body) as ReadLog;
    const log = statistics === null ? read : withStatistics(read, JSON.parse(statistics) as Statistics);
    return { log, id, name, bytes, sample: JSON.parse(sample) as string[], createdAt: createdAt.toISOString() };
  });
  return [...(own ? [own] : []), ...kept].map(({ log, ...told }) => ({
    ...log,
    ...triage(log, evidence, decided),
    ...told,
  }));
}

/** The log of the newest base render, as far as it is. Its number is the render's, below 0. */
async function ownLog(db: Context['db'], shotId: number) {
  const [render] = await db
    .select()
    .from(renders)
    .where(and(eq(renders.shotId, shotId), eq(renders.purpose, 'base')))
    .orderBy(desc(renders.id))
    .limit(1);
  const lines = render ? await linesOf(db, render.id) : [];
  if (lines.length === 0) return null;
  const reading = new LogReading(ownFormat);
  const text = lines.join('\n');
  reading.push(text);
  const log = reading.end();
  // A render that goes on, or was stopped by hand, did not break off.
  const ends = log.closed || render.state !== 'failed';
  return {
    log: { ...log, closed: ends },
    id: -render.id,
    name: `our ${render.sheet} render`,
    bytes: text.length,
    sample: lines.slice(0, SAMPLE),
    createdAt: render.createdAt.toISOString(),
  };
}

/** By whole path, or by name alone: another renderer saw the shot from another folder. */
function evidenceOf(manifest: object, document: ShotDocument): LogEvidence {
  const names = (paths: string[]) => new Set(paths.flatMap((path) => [path, path.slice(path.lastIndexOf('/') + 1)]));
  const there = names(Object.keys(manifest));
  const wanted = names(referencedFiles(document));
  return {
    fileState(path) {
      const place = normalise(path.replaceAll('\\', '/'));
      const name = place.slice(place.lastIndexOf('/') + 1);
      if (there.has(place) || there.has(name)) return 'there';
      return wanted.has(place) || wanted.has(name) ? 'missing' : null;
    },
  };
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
