/** Measures what a frame of some versions takes: what is done once, from their files on, and parts of the frame on all threads. */
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Sheet, SheetName, ShotDocument } from '../../core/document/schema.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import type { FrameTime } from '../../core/predict/frame-time.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { lentByHost, packScene } from '../../host/kernel.ts';
import type { Context } from '../context.ts';
import { frameTimes, versions } from '../db/schema.ts';
import { isAway, tellError } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import type { TimeJob } from '../queue.ts';
import type { RenderThreads } from '../render/render-threads.ts';
import type { SceneTask } from '../render/render-thread.ts';
import type { VersionRow } from '../versions/versions.ts';
import { readerOfManifest } from '../manifest.ts';
import { sharedAssets } from '../render/shared-assets.ts';

/** Each is timed so often, in turns, and the fastest counts: what else the machine does comes and goes. */
const ROUNDS = 3;

interface Ready {
  version: VersionRow;
  task: SceneTask & { sheet: Sheet; seed: number };
  onceSeconds: number;
  best: FrameTime | null;
}

export async function timeVersions(context: Context, threads: RenderThreads, job: TimeJob): Promise<void> {
  const { db } = context;
  const waiting = and(eq(frameTimes.sheet, job.sheet), eq(frameTimes.state, 'waiting'));
  const rows = await db
    .select({ version: versions })
    .from(frameTimes)
    .innerJoin(versions, eq(versions.id, frameTimes.versionId))
    .where(and(waiting, inArray(frameTimes.versionId, job.versionIds)))
    .orderBy(asc(versions.id));
  const write = ({ id, shotId }: VersionRow, found: Partial<typeof frameTimes.$inferInsert>) =>
    db.transaction(async (tx) => {
      const own = and(eq(frameTimes.versionId, id), eq(frameTimes.sheet, job.sheet));
      await tx.update(frameTimes).set(found).where(own);
      await shotChanged(tx, shotId);
    });
  const ready: Ready[] = [];
  const attempt = async (version: VersionRow, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      if (isAway(error)) throw error;
      await write(version, { state: 'failed', error: `It could not be measured: ${tellError(error)}` });
    }
  };
  for (const { version } of rows)
    await attempt(version, async () => void ready.push(await prepare(context, version, job.sheet)));
  for (let round = 0; round < ROUNDS; round++)
    for (const one of ready)
      await attempt(one.version, async () => {
        const time = await timeOnAll(threads, one);
        if (!one.best || time.threadSeconds < one.best.threadSeconds) one.best = time;
      });
  for (const { version, onceSeconds, best } of ready) {
    if (!best) continue;
    const { threadSeconds, rays, error: share } = best;
    await write(version, { state: 'done', error: null, threadSeconds, onceSeconds, rays, share });
  }
}

/** Nothing that was kept of other scenes is used: a machine of the farm begins with nothing. */
async function prepare(context: Context, version: VersionRow, name: SheetName): Promise<Ready> {
  const document = JSON.parse(version.document) as ShotDocument;
  const sheet = document.sheets[name];
  const begun = performance.now();
  const read = readerOfManifest(context.blobs, version.manifest);
  const assets = sharedAssets(await loadAssets(document, read, document.code, 'stand in'));
  const scene = compileScene(document, assets, sheet, lentByHost);
  const packed = packScene(scene);
  const onceSeconds = (performance.now() - begun) / 1000;
  return { version, task: { scene, packed, sheet, seed: pilotSeed(version.id) }, onceSeconds, best: null };
}

/** All threads at once, as when a frame is rendered: they share caches and memory, and each is slower for it. */
async function timeOnAll(threads: RenderThreads, { task }: Ready): Promise<FrameTime> {
  const each = await Promise.all(Array.from({ length: threads.count }, () => threads.run('timeOnThread', task)));
  const threadSeconds = each.reduce((sum, time) => sum + time.threadSeconds, 0) / each.length;
  return { ...each[0], threadSeconds };
}
