/** Files that a shot lacks, or newer ones of those it has, brought in beside the document: a new version. */
import type { BroughtFiles } from '../../core/contracts/intake.ts';
import { apart } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import type { Upload } from '../received.ts';
import { addVersion, headOf, lockHead, needBase } from '../versions/versions.ts';

/**
 * Missing files are found among those that come by path, checksum or name; a file that has the path of one the shot
 * has takes its place, and mends it where the disk damaged it. Nothing else is kept.
 * @throws RequestError 409 when nothing of it is of use
 */
export async function bringFiles(
  context: Context,
  code: string,
  base: number,
  { folder, bytes, gone }: Upload,
): Promise<BroughtFiles> {
  const head = await headOf(context.db, code);
  needBase(head, base);
  const { document, manifest } = head;
  const task = { document, manifest, code, folder, blobs: context.blobs.folder };
  const { told, taken } = await apart('bringTask', task, { gone, bytes });
  const names = Object.keys(taken);
  await context.db.transaction(async (tx) => {
    const { shot, head: now } = await lockHead(tx, code);
    needBase(now, base);
    const reason = `Imported ${names.slice(0, 5).join(', ')}${names.length > 5 ? ` and ${names.length - 5} more` : ''}`;
    await addVersion(context, tx, shot, now, { reason, files: taken });
  });
  return told;
}
