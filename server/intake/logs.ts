/** Logs of a shot: read as they come in, judged against the shot's files and what was decided for it. */
import { and, desc, eq } from 'drizzle-orm';
import type { Request } from 'express';
import { StringDecoder } from 'node:string_decoder';
import type { ShotLog } from '../../core/contracts/intake.ts';
import type { LogDecisionRequest } from '../../core/contracts/requests.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { normalise } from '../../core/formats/paths.ts';
import type { LogEvidence } from '../../core/intake/log/meanings.ts';
import type { ReadLog } from '../../core/intake/log/read.ts';
import { LogStream } from '../../core/intake/log/stream.ts';
import { triage } from '../../core/intake/log/triage.ts';
import { referencedFiles } from '../../core/render/load-assets.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import { logDecisions, logs, versions } from '../db/schema.ts';
import { notFound, RequestError } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { shotByCode } from '../shots/versions.ts';

/** @returns its number. Nothing is kept of a log that breaks off or is none. */
export async function addLog(context: Context, code: string, name: string, request: Request): Promise<number> {
  const shot = await shotByCode(context.db, code);
  const stream = new LogStream(name.slice(0, 200));
  let bytes = 0;
  try {
    let decoder: StringDecoder | null = null;
    for await (const piece of request as AsyncIterable<Buffer>) {
      bytes += piece.length;
      if (bytes > config.uploadLimit)
        throw new RequestError(
          413,
          `The log is larger than ${config.uploadLimit} bytes, the most this server takes. Nothing was kept.`,
        );
      decoder ??= new StringDecoder(piece[0] === 0xff && piece[1] === 0xfe ? 'utf16le' : 'utf8');
      stream.push(decoder.write(piece));
    }
    const log = stream.end();
    return await context.db.transaction(async (tx) => {
      const [row] = await tx
        .insert(logs)
        .values({
          shotId: shot.id,
          name: name.slice(0, 200),
          bytes,
          body: JSON.stringify(log),
        })
        .returning({ id: logs.id });
      await shotChanged(tx, shot.id);
      return row.id;
    });
  } catch (error) {
    if (error instanceof RangeError) throw new RequestError(400, `${error.message} Nothing was kept.`);
    throw error;
  }
}

export async function logsOf({ db }: Context, code: string): Promise<ShotLog[]> {
  const shot = await shotByCode(db, code);
  const rows = await db.select().from(logs).where(eq(logs.shotId, shot.id)).orderBy(desc(logs.id));
  const decided = await db.select().from(logDecisions).where(eq(logDecisions.shotId, shot.id));
  const [head] = await db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const evidence = evidenceOf(JSON.parse(head.manifest) as object, JSON.parse(head.document) as ShotDocument);
  return rows.map(({ id, name, bytes, body, createdAt }) => {
    const log = JSON.parse(body) as ReadLog;
    return { ...log, ...triage(log, evidence, decided), id, name, bytes, createdAt: createdAt.toISOString() };
  });
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
