/** A shot called otherwise, and a shot made from the newest version of another. */
import { eq } from 'drizzle-orm';
import type { CopyRequest } from '../../core/contracts/requests.ts';
import type { ChangeTask } from '../apart/work/document.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { shots } from '../db/schema.ts';
import { shotChanged } from '../notify.ts';
import { createRender } from '../render/renders.ts';
import { lockHead, type ShotRow, type VersionRow } from '../versions/versions.ts';
import { addShot } from './import-shot.ts';

/** What lists call it; its document keeps the name that it came in with. */
export async function renameShot({ db }: Context, code: string, name: string): Promise<void> {
  await db.transaction(async (tx) => {
    const { shot } = await lockHead(tx, code);
    await tx.update(shots).set({ name: name.trim() }).where(eq(shots.id, shot.id));
    await shotChanged(tx, shot.id);
  });
}

/** @throws RequestError 409 when the code is taken; InvalidInput when it is none */
export async function copyShot(context: Context, of: string, called: CopyRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, of);
    await addCopy(context, tx, shot, head, called, { reason: `Copy of ${of}, version ${head.number}` });
  });
}

/** How a copy differs, see `ChangeTask`. */
type CopyChange = { reason: string } & Partial<Pick<ChangeTask, 'patch' | 'values' | 'sheets'>>;

/** A shot made of a version of another, changed by a patch; its preview is rendered. */
export async function addCopy(
  context: Context,
  tx: Transaction,
  shot: ShotRow,
  of: VersionRow,
  { code, name }: CopyRequest,
  { reason, patch = [], values = {}, sheets = [] }: CopyChange,
): Promise<void> {
  const called = [
    { op: 'replace' as const, path: '/code', value: code },
    { op: 'replace' as const, path: '/name', value: name },
  ];
  const task = { document: of.document, code, patch: [...patch, ...called], sheets, values, remove: [] };
  const { document } = await context.documents.changeDocument(task);
  const { manifest } = of;
  const version = await addShot(context, tx, { code, name, document, manifest, cameIn: null }, reason);
  await tx
    .update(shots)
    .set({ showProfile: shot.showProfile, targetProfile: shot.targetProfile, farm: shot.farm })
    .where(eq(shots.id, version.shotId));
  await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null });
  await shotChanged(tx, version.shotId);
}
