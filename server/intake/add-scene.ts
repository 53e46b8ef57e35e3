/** Objects of a scene file added to a shot that is there: a version of its own. */
import type { AddedScene } from '../../core/contracts/intake.ts';
import { apart } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import type { Upload } from '../received.ts';
import { addVersion, headOf, lockHead, needBase } from '../versions/versions.ts';

/**
 * @param base the version the page showed
 * @param name of what is added, for the history
 * @throws RequestError 400 with what is wrong with the files, 409 where the shot has a newer version
 */
export async function addScene(
  context: Context,
  code: string,
  base: number,
  name: string,
  { folder, bytes, gone }: Upload,
): Promise<AddedScene> {
  const head = await headOf(context.db, code);
  needBase(head, base);
  const { document, manifest } = head;
  const { told, values, taken } = await apart('addScene', { document, manifest, folder, blobs: context.blobs.folder }, { gone, bytes }); // prettier-ignore
  await context.db.transaction(async (tx) => {
    const { shot, head: now } = await lockHead(tx, code);
    needBase(now, base);
    const count = told.objects.length;
    const reason = `Added ${count} ${count === 1 ? 'object' : 'objects'} of ${name.slice(0, 120)}`;
    await addVersion(context, tx, shot, now, { reason, values, files: taken });
  });
  return told;
}
