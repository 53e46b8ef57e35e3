/** One batch of tiles, one round further. May run twice, on two workers at once: the first result wins. */
import { and, desc, eq, gte, lt, sql } from 'drizzle-orm';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { FIRST_LOOK_GROUPS, hasFirstLook } from '../../core/diagnose/first-look.ts';
import { sceneFigures } from '../../core/predict/scene-figures.ts';
import type { CompiledScene } from '../../core/render/scene/scene.ts';
import { nextRound, samplesOf } from '../../core/render/film/rounds.ts';
import { CORE_BUILD } from '../../core/render/frame/build.ts';
import { DamagedBlob } from '../blobs.ts';
import { config } from '../config.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { batches, renders, tiles } from '../db/schema.ts';
import { log } from '../log.ts';
import { shotChanged } from '../notify.ts';
import type { TilesJob } from '../queue.ts';
import { queueExamination, queueFirstLook } from './examinations.ts';
import { addLines } from './render-lines.ts';
import { failRender, lockRender, queueRound, tileRegions, type RenderRow } from './renders.ts';
import type { RenderThreads } from './render-threads.ts';
import type { TileResult } from './render-thread.ts';
import type { Scenes } from './scenes.ts';

/** How long a batch should take on one process's threads, milliseconds; well below the queue's patience. */
const BATCH_MS = 2000;

/** Those who wait for a render are told of its end: trials, whose sides renders are. */
export interface RenderEnds {
  /** In the transaction that ends it. */
  finished(context: Context, tx: Transaction, renderId: number): Promise<void>;
  failed(context: Context, renderId: number, error: string): Promise<void>;
}

export async function renderBatch(
  context: Context,
  scenes: Scenes,
  threads: RenderThreads,
  ends: RenderEnds,
  job: TilesJob,
): Promise<void> {
  const { db } = context;
  const [render] = await db.select().from(renders).where(eq(renders.id, job.renderId));
  const isCurrent = async () => {
    const [now] = await db
      .select({ epoch: renders.epoch, state: renders.state })
      .from(renders)
      .where(eq(renders.id, job.renderId));
    return now?.epoch === job.epoch && now.state === 'active';
  };
  if (!render || render.epoch !== job.epoch || render.state !== 'active') return;
  if (render.build !== CORE_BUILD) {
    const why = `The render was begun by another build of the renderer (${render.build}; this is ${CORE_BUILD}), whose pixels are not mixed with ours. Render it again.`;
    await failRender(context, render.id, why);
    if (render.purpose === 'trial') await ends.failed(context, render.id, why);
    return;
  }
  try {
    const { document, scene, packed } = await scenes.get(
      render.versionId,
      JSON.parse(render.patch) as JsonPatch,
      render.sheet,
      JSON.parse(render.files) as Record<string, string>,
    );
    await noteScene(context, render, scene, document);
    const sheet = document.sheets[render.sheet];
    const regions = tileRegions(render);
    const times = await Promise.all(
      job.tiles.map(async (tile) => {
        const before = await filmBefore(context, render.id, tile, job.groups);
        if (before?.groups === job.groups) return before.ms;
        if (!(await isCurrent())) return null;
        const { film, time } = await soFar(context, before);
        const task = { scene, packed, sheet, seed: render.seed, region: regions[tile], film, time, groups: job.groups };
        const result = await threads.run('renderTile', task);
        await recordTile(context, ends, job, tile, result, document.frame);
        return result.ms;
      }),
    );
    if (times.includes(null)) return;
    const total = (times as number[]).reduce((a, b) => a + b, 0);
    await queueNextRound(context, job, total / times.length, threads.count);
  } catch (error) {
    if (!(error instanceof RangeError || (error as Error).name === 'InvalidInput')) throw error;
    await failRender(context, job.renderId, (error as Error).message);
    if (render.purpose === 'trial') await ends.failed(context, render.id, (error as Error).message);
  }
}

/** Says once what is unusual about the render's scene, to the page and to the log, and what it holds. */
async function noteScene(
  { db }: Context,
  render: RenderRow,
  scene: CompiledScene,
  document: ShotDocument,
): Promise<void> {
  const { warnings } = scene;
  if (render.warnings !== null) return;
  // Traced before the transaction: nobody waits for its lock meanwhile.
  const figures = JSON.stringify(sceneFigures(scene, document.sheets[render.sheet]));
  await db.transaction(async (tx) => {
    const now = await lockRender(tx, render.id);
    if (now.warnings !== null) return;
    await tx
      .update(renders)
      .set({ warnings: JSON.stringify(warnings), sceneFigures: figures })
      .where(eq(renders.id, render.id));
    const { width, height, samples } = document.sheets[render.sheet];
    const said = (severity: 'info' | 'warning', phase: string, message: string) => ({ severity, phase, rays: null, message }); // prettier-ignore
    await addLines(tx, render, document.frame, [
      said('info', 'open', `${document.code}, ${render.sheet} sheet`),
      ...warnings.map((warning) => said('warning', 'compile', warning)),
      said('info', 'render', `${width} × ${height} pixels, ${samples} samples, ${render.tileCount} tiles`),
    ]);
  });
}

/** The tile's film at these groups, or the latest before; null when there is none. */
async function filmBefore({ db }: Context, renderId: number, tile: number, groups: number) {
  const [row] = await db
    .select()
    .from(tiles)
    .where(and(eq(tiles.renderId, renderId), eq(tiles.tile, tile), lt(tiles.groups, groups + 1)))
    .orderBy(desc(tiles.groups))
    .limit(1);
  return row ?? null;
}

/** What a tile has so far. One that the disk damaged is rendered from its first group: that gives the same bits. */
async function soFar({ blobs }: Context, before: { film: string; time: string | null } | null) {
  if (!before) return { film: null, time: null };
  try {
    const film = await blobs.get(before.film);
    return { film, time: before.time === null ? null : await blobs.get(before.time) };
  } catch (error) {
    if (!(error instanceof DamagedBlob)) throw error;
    log.warn({ film: before.film }, 'a film was damaged and is rendered again');
    return { film: null, time: null };
  }
}

/** Writes a result down, unless it or a later one is there already, and ends the render with its last tile. */
async function recordTile(
  context: Context,
  ends: RenderEnds,
  job: TilesJob,
  tile: number,
  result: TileResult,
  frame: number,
): Promise<void> {
  const film = await context.blobs.put(result.film);
  const time = await context.blobs.put(result.time);
  await context.db.transaction(async (tx) => {
    const render = await lockRender(tx, job.renderId);
    const [{ most }] = await tx
      .select({ most: sql<number>`coalesce(max(${tiles.groups}), 0)` })
      .from(tiles)
      .where(and(eq(tiles.renderId, job.renderId), eq(tiles.tile, tile)));
    if (most >= job.groups) return;
    await tx.insert(tiles).values({
      renderId: job.renderId,
      tile,
      groups: job.groups,
      film,
      time,
      rays: result.rays,
      ms: result.ms,
      worker: config.processName,
    });
    const doneGroups = render.doneGroups + job.groups - most;
    const isDone = render.state === 'active' && doneGroups === render.tileCount * render.targetGroups;
    const change: Partial<RenderRow> = {
      doneGroups,
      rays: render.rays + result.rays,
      ms: render.ms + result.ms,
      revision: render.revision + 1,
    };
    if (isDone) Object.assign(change, { state: 'done', finishedAt: new Date() });
    if (isDone && render.purpose === 'base' && render.wholeFrame) {
      change.examined = 'waiting';
      await queueExamination(context, tx, { ...render, ...change });
    } else if (isFirstLook(render, job.groups) && (await tilesAt(tx, render.id, job.groups)) === render.tileCount)
      await queueFirstLook(context, tx, render);
    await tx.update(renders).set(change).where(eq(renders.id, render.id));
    const share = Math.floor((100 * doneGroups) / (render.tileCount * render.targetGroups));
    const rays = { all: render.rays + result.rays };
    await addLines(tx, render, frame, [
      {
        severity: 'info',
        phase: 'render',
        rays,
        message: `tile ${tile} at ${samplesOf(job.groups)} samples, ${share} %`,
      },
      ...(isDone
        ? [{ severity: 'info' as const, phase: 'done', rays, message: `render ${render.id} is complete` }]
        : []),
    ]);
    if (isDone && render.purpose === 'trial') await ends.finished(context, tx, render.id);
    await shotChanged(tx, render.shotId);
  });
}

/** Whether a round is the one after which some families look already. */
const isFirstLook = ({ purpose, wholeFrame, state, targetGroups }: RenderRow, groups: number): boolean =>
  purpose === 'base' && wholeFrame && state === 'active' && groups === FIRST_LOOK_GROUPS && hasFirstLook(targetGroups);

/** Tiles that have so many groups or more. */
async function tilesAt(tx: Transaction, renderId: number, groups: number): Promise<number> {
  const [{ n }] = await tx
    .select({ n: sql<number>`count(distinct ${tiles.tile})::int` })
    .from(tiles)
    .where(and(eq(tiles.renderId, renderId), gte(tiles.groups, groups)));
  return n;
}

async function queueNextRound(context: Context, job: TilesJob, msPerTile: number, threads: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const render = await lockRender(tx, job.renderId);
    if (render.epoch !== job.epoch || render.state !== 'active' || job.groups >= render.targetGroups) return;
    const first = await tx
      .insert(batches)
      .values({ id: job.batch, renderId: job.renderId })
      .onConflictDoNothing()
      .returning();
    if (first.length === 0) return;
    const next = nextRound(job.groups, render.targetGroups);
    const growth = Math.max(1, (next - job.groups) / Math.max(1, job.groups - job.groups / 2));
    const size = Math.max(1, Math.floor((BATCH_MS * threads) / (msPerTile * growth)));
    await queueRound(context, tx, render, next, job.tiles, size);
  });
}
