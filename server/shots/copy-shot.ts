/** A shot called otherwise, and a shot made from the newest version of another. */
import { eq } from 'drizzle-orm';
import type { CopyRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { shots } from '../db/schema.ts';
import { shotChanged } from '../notify.ts';
import { createRender } from '../render/renders.ts';
import { lockHead } from '../versions/versions.ts';
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
export async function copyShot(context: Context, of: string, { code, name }: CopyRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, of);
    const patch = [
      { op: 'replace' as const, path: '/code', value: code },
      { op: 'replace' as const, path: '/name', value: name },
    ];
    const task = { document: head.document, code, patch, sheets: [], values: {}, remove: [] };
    const { document } = await context.documents.changeDocument(task);
    const { manifest } = head;
    const version = await addShot(context, tx, { code, name, document, manifest, cameIn: null }, `Copy of ${of}, version ${head.number}`); // prettier-ignore
    await tx
      .update(shots)
      .set({ showProfile: shot.showProfile, targetProfile: shot.targetProfile, farm: shot.farm })
      .where(eq(shots.id, version.shotId));
    await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null });
    await shotChanged(tx, version.shotId);
  });
}
