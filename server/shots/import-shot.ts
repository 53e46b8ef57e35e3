/**
 * The one way a shot comes in, the demo's and a user's alike: its document is checked, every file it
 * refers to is read and kept, and only then are rows written. Its first base render is queued with them.
 */
import { readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';

import { apart } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { shots, versions } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import type { Upload } from '../received.ts';
import { queuePreflight } from '../versions/preflight-queue.ts';
import { shotChanged } from '../notify.ts';
import { createRender, type RenderedVersion } from '../render/renders.ts';
import type { ImportedFiles } from '../apart/work/import-files.ts';

/**
 * @returns the shot's code
 * @throws InvalidInput when document or files cannot be used; RequestError 409 when the code is taken
 */
export async function importShot(context: Context, { folder, beside, bytes, gone }: Upload): Promise<string> {
  const task = { folder, blobs: context.blobs.folder, text: beside };
  const { plan, ...made } = await apart('importFiles', task, { gone, bytes });
  const document = await readFile(beside, 'utf8');
  await context.db.transaction(async (tx) => {
    const version = await addShot(context, tx, { ...made, document }, 'Imported');
    await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null, plan });
  });
  return made.code;
}

export type NewShot = Pick<ImportedFiles, 'code' | 'name' | 'manifest' | 'cameIn'> & { document: string };

/** Rows of a shot and its first version. @returns the version. @throws RequestError 409 when the code is taken, also at the same moment */
export async function addShot(
  context: Context,
  tx: Transaction,
  made: NewShot,
  reason: string,
): Promise<RenderedVersion> {
  const { code, name, document, manifest, cameIn } = made;
  const [shot] = await tx
    .insert(shots)
    .values({ code, name, cameIn: cameIn && JSON.stringify(cameIn) })
    .onConflictDoNothing({ target: shots.code })
    .returning();
  if (!shot) {
    const how = cameIn ? `Give ${cameIn.file} another name` : 'Give this one another code in shot.json';
    throw conflict(`A shot with the code ${code} is here already. ${how}.`);
  }
  const [version] = await tx
    .insert(versions)
    .values({ shotId: shot.id, number: 1, document, manifest, reason })
    .returning({ id: versions.id });
  await tx.update(shots).set({ headVersionId: version.id }).where(eq(shots.id, shot.id));
  await queuePreflight(context, tx, version.id);
  await shotChanged(tx, shot.id);
  return { id: version.id, shotId: shot.id, document };
}
