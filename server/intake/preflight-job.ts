/** Examines a version of a shot: its checks and its files, written down once. */
import { and, eq } from 'drizzle-orm';
import type { Finding } from '../../core/contracts/finding.ts';
import { lineOf } from '../../core/diagnose/stored.ts';
import { versionFindings } from '../../core/diagnose/version-findings.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { knownFiles } from '../../core/formats/scene-files.ts';
import { chainOf } from '../../core/intake/files/chain.ts';
import { listFiles } from '../../core/intake/files/list.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { runPreflight } from '../../core/intake/preflight/run.ts';
import { fitTarget } from '../../core/intake/fit/fit.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { findings, preflights, shots, versions } from '../db/schema.ts';
import { isAway, tellError } from '../errors.ts';
import { log } from '../log.ts';
import { shotChanged } from '../notify.ts';
import type { PreflightJob } from '../queue.ts';
import { heldAgainst, type PreflightResults } from './preflights.ts';
import { readerOfManifest } from '../manifest.ts';
import type { VersionRow } from '../versions/versions.ts';
import { profilesOf } from './profiles.ts';

export async function preflightVersion(context: Context, { versionId }: PreflightJob): Promise<void> {
  const [row] = await context.db.select().from(preflights).where(eq(preflights.versionId, versionId));
  if (row?.state !== 'waiting') return;
  const { run } = row;
  const [version] = await context.db.select().from(versions).where(eq(versions.id, versionId));
  const started = performance.now();
  const values = await results(context, version).catch((error: unknown) => {
    if (isAway(error)) throw error;
    log.error({ error: String(error), version: versionId }, 'preflight failed');
    return { state: 'failed' as const, found: [], error: `The shot could not be examined: ${tellError(error)}` };
  });
  await context.db.transaction(async (tx) => {
    const seconds = (performance.now() - started) / 1000;
    const { found, ...row } = values;
    const written = await tx
      .update(preflights)
      .set({ ...row, seconds })
      .where(and(eq(preflights.versionId, versionId), eq(preflights.run, run)))
      .returning({ versionId: preflights.versionId });
    // Another run is queued where it was held against something else meanwhile.
    if (!written.length) return;
    if (values.state === 'done') await noteFindings(tx, version, run, found);
    await shotChanged(tx, version.shotId);
  });
}

/** Findings of the version, in one list with those of its renders. They are written once: another run has its own. */
async function noteFindings(tx: Transaction, { id, shotId }: VersionRow, run: number, found: Finding[]): Promise<void> {
  if (found.length === 0) return;
  const rows = found.map((finding, position) => ({
    shotId,
    versionId: id,
    renderId: null,
    key: finding.key,
    samples: run,
    body: canonicalText(finding),
    summary: canonicalText(lineOf(finding)),
    mask: null,
    position,
  }));
  await tx.insert(findings).values(rows).onConflictDoNothing();
}

async function results(context: Context, version: typeof versions.$inferSelect) {
  const [shot] = await context.db.select().from(shots).where(eq(shots.id, version.shotId));
  const against = await profilesOf(context.db, shot);
  const manifest = JSON.parse(version.manifest) as Record<string, string>;
  const document = JSON.parse(version.document) as ShotDocument;
  const read = readerOfManifest(context.blobs, version.manifest);
  const source = await fromShot(document, version.document.length, knownFiles(Object.keys(manifest), read));
  const checks = runPreflight(source, against.profile, document);
  const told: PreflightResults = {
    checks,
    ...listFiles(source, document),
    chain: chainOf(source, document),
    fit: against.target && fitTarget(source, document, against.target),
    profile: against.profile.name,
    heldAgainst: heldAgainst(against),
  };
  const sentences = (['stop', 'caution'] as const).flatMap((state) =>
    checks
      .filter((check) => check.state === state)
      .map(({ id, title, found }) => ({ id, state, sentence: `${title}: ${found}.` })),
  );
  const count = (state: string) => checks.filter((check) => check.state === state).length;
  return {
    state: 'done' as const,
    error: null,
    results: JSON.stringify(told),
    stops: count('stop'),
    cautions: count('caution'),
    told: JSON.stringify(sentences),
    found: versionFindings(checks),
  };
}
