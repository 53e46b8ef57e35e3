/** Preflight of versions as rows: queued with each version, read by pages, its repairs carried out. */
import { eq } from 'drizzle-orm';
import type { CameIn, Intake, PreflightSummary } from '../../core/contracts/intake.ts';
import { REPORTS } from '../../core/intake/preflight/report.ts';
import type { Context } from '../context.ts';
import type { Database, Transaction } from '../db/database.ts';
import { preflights, versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotByCode } from '../shots/versions.ts';

/** Before tiles: people wait for it, and it is short. */
const PRIORITY = 2;

export async function queuePreflight(context: Context, tx: Transaction, versionId: number): Promise<void> {
  await tx.insert(preflights).values({ versionId, state: 'waiting' }).onConflictDoNothing();
  await context.queue.send(tx, 'preflight', [{ versionId }], PRIORITY);
}

/** What intake shows of a shot's present version. One that was never checked is queued by being looked at. */
export async function intakeOf(context: Context, code: string): Promise<Intake> {
  const shot = await shotByCode(context.db, code);
  const [version] = await context.db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const [row] = await context.db.select().from(preflights).where(eq(preflights.versionId, version.id));
  if (!row) await context.db.transaction((tx) => queuePreflight(context, tx, version.id));
  const results = row?.results
    ? (JSON.parse(row.results) as Pick<Intake, 'checks' | 'files' | 'totalBytes' | 'profile'>)
    : { checks: [], files: [], totalBytes: 0, profile: '' };
  return {
    version: version.number,
    state: row?.state ?? 'waiting',
    error: row?.error ?? null,
    seconds: row?.seconds ?? 0,
    ...results,
    cameIn: shot.cameIn === null ? null : (JSON.parse(shot.cameIn) as CameIn),
  };
}

export async function preflightSummary(
  tx: Transaction | Database,
  versionId: number,
): Promise<PreflightSummary | null> {
  const [row] = await tx
    .select({ state: preflights.state, stop: preflights.stops, caution: preflights.cautions })
    .from(preflights)
    .where(eq(preflights.versionId, versionId));
  return row ?? null;
}

/** @param kind ending of a report: html, md, csv or json */
export async function preflightReport(context: Context, code: string, kind: string): Promise<string> {
  if (!Object.hasOwn(REPORTS, kind)) throw notFound(`report of kind "${kind.slice(0, 20)}"`);
  const { checks, profile, state, version } = await intakeOf(context, code);
  if (state !== 'done') throw conflict(`Version ${version} of ${code} is still being checked.`);
  const date = new Date().toISOString().slice(0, 16).replace('T', ' ');
  return REPORTS[kind](checks, {
    scene: `${code}, version ${version}`,
    profile,
    date,
  });
}
