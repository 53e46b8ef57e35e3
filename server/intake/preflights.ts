/** Preflight of versions as rows: queued with each version, read by pages, its repairs carried out. */
import { eq, inArray } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { CameIn, Intake, PreflightSummary } from '../../core/contracts/intake.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { Profile } from '../../core/intake/preflight/profile.ts';
import type { Target } from '../../core/intake/fit/target.ts';
import { REPORTS } from '../../core/intake/preflight/report.ts';
import type { Context } from '../context.ts';
import type { Database, Transaction } from '../db/database.ts';
import { preflights, versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotByCode } from '../versions/versions.ts';
import { checkAgain } from '../versions/preflight-queue.ts';
import { profilesOf } from './profiles.ts';

/** What a version was held against, to tell results that are out of date. */
export const heldAgainst = ({ profile, target }: { profile: Profile; target: Target | null }): string =>
  createHash('sha256')
    .update(canonicalText([profile, target]))
    .digest('hex');

/** What a job writes down. */
export type PreflightResults = Pick<Intake, 'checks' | 'files' | 'totalBytes' | 'profile' | 'chain' | 'fit'> & {
  heldAgainst: string;
};

const NOTHING: PreflightResults = { checks: [], files: [], totalBytes: 0, profile: '', chain: [], fit: null, heldAgainst: '' }; // prettier-ignore

/** What intake shows of a shot's present version. One that was never checked, or by another profile, is queued by being looked at. */
export async function intakeOf(context: Context, code: string): Promise<Intake> {
  const shot = await shotByCode(context.db, code);
  const [version] = await context.db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  const [row] = await context.db.select().from(preflights).where(eq(preflights.versionId, version.id));
  const results: PreflightResults = { ...NOTHING, ...(row?.results ? (JSON.parse(row.results) as object) : {}) };
  const now = heldAgainst(await profilesOf(context.db, shot));
  const isOld = row?.state === 'done' && results.heldAgainst !== now;
  if (!row || isOld) await context.db.transaction((tx) => checkAgain(context, tx, version.id));
  return {
    version: version.number,
    state: isOld ? 'waiting' : (row?.state ?? 'waiting'),
    error: row?.error ?? null,
    seconds: row?.seconds ?? 0,
    checks: results.checks,
    files: results.files,
    totalBytes: results.totalBytes,
    profile: results.profile,
    chain: results.chain,
    fit: results.fit,
    show: shot.showProfile,
    target: shot.targetProfile,
    cameIn: shot.cameIn === null ? null : (JSON.parse(shot.cameIn) as CameIn),
  };
}

/** Of versions, by their numbers; those that were never checked are missing. */
export async function preflightSummaries(
  tx: Transaction | Database,
  versionIds: number[],
): Promise<Map<number, PreflightSummary>> {
  if (versionIds.length === 0) return new Map();
  const { versionId, state, run, stops, cautions, told } = preflights;
  const rows = await tx
    .select({ versionId, state, run, stop: stops, caution: cautions, told })
    .from(preflights)
    .where(inArray(versionId, versionIds));
  return new Map(
    rows.map(({ versionId: of, ...row }) => [of, { ...row, told: JSON.parse(row.told) as PreflightSummary['told'] }]),
  );
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
