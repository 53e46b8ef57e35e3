/** Frames of a shot rendered as one: each a render of its own, with random numbers of its own. */
import { and, eq } from 'drizzle-orm';
import type { FramesRequest } from '../../core/contracts/requests.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { Context } from '../context.ts';
import { frameRanges, renders } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { lockHead } from '../versions/versions.ts';
import { createRender, stopRender } from './renders.ts';

/** Seeds are 32 bits wide. */
const SEEDS = 2 ** 32;

/** @returns the range's id */
export async function renderFrames(context: Context, code: string, { sheet, frames }: FramesRequest): Promise<number> {
  return context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    const { frame: own, sheets } = JSON.parse(head.document) as ShotDocument;
    const [range] = await tx.insert(frameRanges).values({ shotId: shot.id }).returning();
    for (const frame of [...frames].sort((a, b) => a - b)) {
      const patch = frame === own ? [] : [{ op: 'replace' as const, path: '/frame', value: frame }];
      // Noise that stands still from frame to frame would look like dirt on the lens.
      const seed = (sheets[sheet].seed + frame - own + SEEDS) % SEEDS;
      const of = { version: head, purpose: 'frame' as const, sheet, patch, region: null, seed };
      await createRender(context, tx, { ...of, range: range.id, frame });
    }
    return range.id;
  });
}

/** Stops those of its frames that still render; they can be continued one by one. */
export async function stopFrames(context: Context, id: number): Promise<void> {
  const own = await context.db
    .select({ id: renders.id })
    .from(renders)
    .where(and(eq(renders.rangeId, id), eq(renders.state, 'active')));
  if (own.length === 0) throw notFound(`range of frames ${id} that is rendering`);
  for (const render of own) await stopRender(context, render.id);
}
