/** Renders as rows and as queued batches of tiles: made, stopped, continued. */
import { and, eq, sql } from 'drizzle-orm';
import type { RenderPurpose } from '../../core/contracts/events.ts';
import type { Region } from '../../core/data/picture.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { SheetName } from '../../core/document/schema.ts';
import { CORE_BUILD } from '../../core/render/frame/build.ts';
import { tilesOf } from '../../core/render/frame/render-tile.ts';
import { groupsOf, nextRound, samplesOf } from '../../core/render/film/rounds.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { renders, tiles } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { FRAME, RENDER, TRIAL } from '../priorities.ts';
import { favourOf } from '../attention.ts';
import { TILE, type RenderPlan } from '../apart/work/document.ts';
import type { VersionRow } from '../versions/versions.ts';

export type RenderRow = typeof renders.$inferSelect;

/** Tiles of a first batch, before it is known how long a tile takes. */
const FIRST_BATCH = 8;

/** Tiles of a render, those at the middle of its region first. */
export function tileRegions(render: Region & { tileSize: number }): Region[] {
  const [cx, cy] = [render.x + render.width / 2, render.y + render.height / 2];
  const away = (t: Region) => Math.max(Math.abs(t.x + t.width / 2 - cx), Math.abs(t.y + t.height / 2 - cy));
  return tilesOf(render, render.tileSize).sort((a, b) => away(a) - away(b) || a.y - b.y || a.x - b.x);
}

/** What a render wants to know of the version it is of. */
export type RenderedVersion = Pick<VersionRow, 'id' | 'shotId' | 'document'>;

export interface NewRender {
  version: RenderedVersion;
  purpose: RenderPurpose;
  sheet: SheetName;
  patch: JsonPatch;
  /** Hashes by path of files beside the version's; left out: none. */
  files?: Record<string, string>;
  /** Null: the full frame. */
  region: Region | null;
  /** Left out: the sheet's own. */
  seed?: number;
  /** The range of frames it is one of, and which. */
  range?: number;
  frame?: number;
  /** Where it was worked out already. */
  plan?: RenderPlan;
}

export async function createRender(context: Context, tx: Transaction, wanted: NewRender): Promise<RenderRow> {
  const { version, purpose, sheet, patch } = wanted;
  const task = { document: version.document, sheet, patches: [patch], region: wanted.region };
  const { region, seed, ...plan } = wanted.plan ?? (await context.documents.planRenders(task))[0];
  const [render] = await tx
    .insert(renders)
    .values({
      shotId: version.shotId,
      versionId: version.id,
      purpose,
      sheet,
      patch: canonicalText(patch),
      files: canonicalText(wanted.files ?? {}),
      ...region,
      ...plan,
      seed: wanted.seed ?? seed,
      rangeId: wanted.range,
      frame: wanted.frame,
      tileSize: TILE,
      state: 'active',
      build: CORE_BUILD,
    })
    .returning();
  await queueTiles(context, tx, render, new Map());
  await shotChanged(tx, render.shotId);
  return render;
}

/** Queues the next round of every tile that has not reached the target. */
async function queueTiles(context: Context, tx: Transaction, render: RenderRow, done: Map<number, number>) {
  const byRound = new Map<number, number[]>();
  for (let tile = 0; tile < render.tileCount; tile++) {
    const have = done.get(tile) ?? 0;
    if (have >= render.targetGroups) continue;
    const next = nextRound(have, render.targetGroups);
    byRound.set(next, [...(byRound.get(next) ?? []), tile]);
  }
  for (const [groups, list] of byRound) await queueRound(context, tx, render, groups, list, FIRST_BATCH);
}

/** Queues one round of some tiles in batches. Small rounds, and trials, go before others. */
export async function queueRound(
  { queue }: Context,
  tx: Transaction,
  render: Pick<RenderRow, 'id' | 'shotId' | 'epoch' | 'purpose'>,
  groups: number,
  list: number[],
  batchSize: number,
): Promise<void> {
  const jobs = [];
  for (let i = 0; i < list.length; i += batchSize) {
    const batch = list.slice(i, i + batchSize);
    const id = `${render.id}.${render.epoch}.${groups}.${batch[0]}`;
    jobs.push({ shotId: render.shotId, renderId: render.id, epoch: render.epoch, batch: id, tiles: batch, groups });
  }
  const own = render.purpose === 'frame' ? FRAME : RENDER;
  const first = render.purpose === 'trial' ? TRIAL : own + (await favourOf(tx, render.shotId));
  const priority = first - Math.ceil(Math.log2(groups));
  await queue.send(tx, 'tiles', jobs, priority);
}

export async function lockRender(tx: Transaction, id: number): Promise<RenderRow> {
  const [render] = await tx.select().from(renders).where(eq(renders.id, id)).for('update');
  if (!render) throw notFound(`render ${id}`);
  return render;
}

/** Greatest groups of each tile that has any. */
export async function tileGroups(tx: Transaction | Context['db'], renderId: number): Promise<Map<number, number>> {
  const rows = await tx
    .select({ tile: tiles.tile, groups: sql<number>`max(${tiles.groups})` })
    .from(tiles)
    .where(eq(tiles.renderId, renderId))
    .groupBy(tiles.tile);
  return new Map(rows.map((r) => [r.tile, r.groups]));
}

/** Stops a render; what is finished stays, and can be continued. */
export async function stopRender(context: Context, id: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const render = await lockRender(tx, id);
    if (render.state !== 'active') throw conflict(`Render ${id} is not running: it is ${render.state}.`);
    await tx
      .update(renders)
      .set({ state: 'stopped', epoch: render.epoch + 1 })
      .where(eq(renders.id, id));
    await shotChanged(tx, render.shotId);
  });
}

/** Goes on with a stopped or finished render to more samples, with the bits of one long render. */
export async function continueRender(context: Context, id: number, samples: number): Promise<void> {
  await context.db.transaction(async (tx) => {
    const render = await lockRender(tx, id);
    if (render.purpose === 'trial')
      throw conflict(`Render ${id} is one side of a trial, which stays as it was measured.`);
    if (render.build !== CORE_BUILD)
      throw conflict(`Render ${id} was made by another build of the renderer (${render.build}). Render it again.`);
    const target = groupsOf(samples);
    const done = await tileGroups(tx, id);
    const most = Math.max(0, ...done.values());
    const finished = render.state === 'done' || render.state === 'active';
    if (target < most || (finished && target <= render.targetGroups))
      throw conflict(
        `Render ${id} ${finished ? 'goes' : 'has gone'} to ${samplesOf(finished ? render.targetGroups : most)} samples; ${samples} are not more.`,
      );
    const next = { ...render, targetGroups: target, state: 'active' as const, epoch: render.epoch + 1 };
    await tx
      .update(renders)
      .set({
        targetGroups: target,
        state: 'active',
        epoch: next.epoch,
        examined: 'no',
        error: null,
        finishedAt: null,
      })
      .where(eq(renders.id, id));
    await queueTiles(context, tx, next, done);
    await shotChanged(tx, render.shotId);
  });
}

/** Marks a render as failed, with a sentence; queued jobs of it do nothing from then on. */
export async function failRender(context: Context, id: number, error: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [render] = await tx
      .update(renders)
      .set({ state: 'failed', error, epoch: sql`${renders.epoch} + 1` })
      .where(and(eq(renders.id, id), eq(renders.state, 'active')))
      .returning();
    if (render) await shotChanged(tx, render.shotId);
  });
}
