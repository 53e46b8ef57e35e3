/** What frames take, asked for and told; the farm that a shot is for. */
import { and, asc, eq } from 'drizzle-orm';
import type { FrameTimeSummary } from '../../core/contracts/events.ts';
import { DEFAULT_FARM, type FarmRequest, type FrameTimesRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { frameTimes, shots, versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { TIMING } from '../priorities.ts';
import { lockHead, shotByCode, type ShotRow } from '../versions/versions.ts';

/** Has frames measured, anew where they were. A version never changes, but the machine does. */
export async function askFrameTimes(context: Context, code: string, request: FrameTimesRequest): Promise<void> {
  const { sheet } = request;
  await context.db.transaction(async (tx) => {
    const { shot } = await lockHead(tx, code);
    const versionIds: number[] = [];
    for (const number of new Set(request.versions)) {
      const [version] = await tx
        .select({ id: versions.id })
        .from(versions)
        .where(and(eq(versions.shotId, shot.id), eq(versions.number, number)));
      if (!version) throw notFound(`version ${number} of ${code}`);
      const waiting = { state: 'waiting' as const, error: null };
      await tx
        .insert(frameTimes)
        .values({ versionId: version.id, sheet, ...waiting })
        .onConflictDoUpdate({ target: [frameTimes.versionId, frameTimes.sheet], set: waiting });
      versionIds.push(version.id);
    }
    await context.queue.send(tx, 'time', [{ versionIds, sheet }], TIMING);
    await shotChanged(tx, shot.id);
  });
}

export async function frameTimesOf(tx: Transaction, shotId: number): Promise<FrameTimeSummary[]> {
  const rows = await tx
    .select({ time: frameTimes, version: versions.number })
    .from(frameTimes)
    .innerJoin(versions, eq(versions.id, frameTimes.versionId))
    .where(eq(versions.shotId, shotId))
    .orderBy(asc(versions.number));
  return rows.map(({ time, version }) => ({ ...time, version }));
}

export const farmOf = ({ farm }: ShotRow): FarmRequest =>
  farm === null ? DEFAULT_FARM : (JSON.parse(farm) as FarmRequest);

export async function keepFarm({ db }: Context, code: string, farm: FarmRequest): Promise<void> {
  await db.transaction(async (tx) => {
    const shot = await shotByCode(tx, code);
    await tx.update(shots).set({ farm: JSON.stringify(farm) }).where(eq(shots.id, shot.id)); // prettier-ignore
    await shotChanged(tx, shot.id);
  });
}
