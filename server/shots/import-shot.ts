/**
 * The one way a shot comes in, the demo's and a user's alike: its document is checked, every file it
 * refers to is read and kept, and only then are rows written. Its first base render is queued with them.
 */
import { eq } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import { neededFiles } from '../../core/render/load-assets.ts';
import type { Context } from '../context.ts';
import { shots, versions } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import { queuePreflight } from '../intake/preflight-queue.ts';
import { shotChanged } from '../notify.ts';
import { createRender } from '../render/renders.ts';
import { bringIn } from './bring-in.ts';
import type { ShotFiles } from './shot-files.ts';

/**
 * @returns the shot's code
 * @throws InvalidInput when document or files cannot be used; RequestError 409 when the code is taken
 */
export async function importShot(context: Context, files: ShotFiles): Promise<string> {
  const { document, read, cameIn } = await bringIn(files);
  const [present] = await context.db.select().from(shots).where(eq(shots.code, document.code));
  if (present) {
    const how = cameIn ? `Give ${cameIn.file} another name` : 'Give this one another code in shot.json';
    throw conflict(`A shot with the code ${document.code} is here already. ${how}.`);
  }
  // What is missing is told by preflight and shown in the picture: a broken shot comes in to be mended.
  const manifest: Record<string, string> = {};
  for (const path of await neededFiles(document, read, document.code, 'stand in'))
    manifest[path] = await context.blobs.put((await read(path))!);

  await context.db.transaction(async (tx) => {
    const [shot] = await tx
      .insert(shots)
      .values({ code: document.code, name: document.name, cameIn: cameIn && JSON.stringify(cameIn) })
      .returning();
    const [version] = await tx
      .insert(versions)
      .values({
        shotId: shot.id,
        number: 1,
        document: canonicalText(document),
        manifest: canonicalText(manifest),
        reason: 'Came in',
      })
      .returning();
    await tx.update(shots).set({ headVersionId: version.id }).where(eq(shots.id, shot.id));
    await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null });
    await queuePreflight(context, tx, version.id);
    await shotChanged(tx, shot.id);
  });
  return document.code;
}
