/** Examines a version of a shot: its checks and its files, written down once. */
import { eq } from 'drizzle-orm';
import type { Intake } from '../../core/contracts/intake.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { knownFiles } from '../../core/formats/scene-files.ts';
import { listFiles } from '../../core/intake/files/list.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { defaultProfile } from '../../core/intake/preflight/profile.ts';
import { runPreflight } from '../../core/intake/preflight/run.ts';
import type { Context } from '../context.ts';
import { preflights, versions } from '../db/schema.ts';
import { log } from '../log.ts';
import { shotChanged } from '../notify.ts';
import type { PreflightJob } from '../queue.ts';

export async function preflightVersion(context: Context, { versionId }: PreflightJob): Promise<void> {
  const [row] = await context.db.select().from(preflights).where(eq(preflights.versionId, versionId));
  if (row?.state !== 'waiting') return;
  const [version] = await context.db.select().from(versions).where(eq(versions.id, versionId));
  const started = performance.now();
  const values = await results(context, version).catch((error: unknown) => {
    log.error({ error: String(error), version: versionId }, 'preflight failed');
    return { state: 'failed' as const, error: `The shot could not be examined: ${(error as Error).message}` };
  });
  await context.db.transaction(async (tx) => {
    const seconds = (performance.now() - started) / 1000;
    await tx
      .update(preflights)
      .set({ ...values, seconds })
      .where(eq(preflights.versionId, versionId));
    await shotChanged(tx, version.shotId);
  });
}

async function results(context: Context, version: typeof versions.$inferSelect) {
  const manifest = JSON.parse(version.manifest) as Record<string, string>;
  const document = JSON.parse(version.document) as ShotDocument;
  const read = async (path: string) => (Object.hasOwn(manifest, path) ? context.blobs.get(manifest[path]) : null);
  const source = await fromShot(document, version.document.length, knownFiles(Object.keys(manifest), read));
  const profile = defaultProfile();
  const checks = runPreflight(source, profile, document);
  const told: Pick<Intake, 'checks' | 'files' | 'totalBytes' | 'profile'> = {
    checks,
    ...listFiles(source, document),
    profile: profile.name,
  };
  const count = (state: string) => checks.filter((check) => check.state === state).length;
  return { state: 'done' as const, results: JSON.stringify(told), stops: count('stop'), cautions: count('caution') };
}
