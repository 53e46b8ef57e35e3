/** Files that a shot lacks, or newer ones of those it has, brought in beside the document: a new version. */
import type { BroughtFiles } from '../../core/contracts/intake.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { plural } from '../../core/intake/preflight/tell.ts';
import { readSums, relink, type Candidate } from '../../core/intake/files/relink.ts';
import { neededFiles, referencedFiles } from '../../core/render/load-assets.ts';
import { sha256, SUMS } from '../../host/package-zip.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import type { ShotFiles } from '../shots/shot-files.ts';
import { addVersion, headOf, lockHead, needBase } from '../shots/versions.ts';

/**
 * Missing files are found among those that come by path, checksum or name; a file that has the path of one the shot
 * has takes its place. Nothing else is kept.
 * @throws RequestError 409 when nothing of it is of use
 */
export async function bringFiles(
  context: Context,
  code: string,
  base: number,
  files: ShotFiles,
): Promise<BroughtFiles> {
  const head = await headOf(context.db, code);
  needBase(head, base);
  const document = JSON.parse(head.document) as ShotDocument;
  const manifest = JSON.parse(head.manifest) as Record<string, string>;
  const candidates: Candidate[] = [];
  const sums = new Map<string, string>();
  for (const path of files.paths) {
    const bytes = (await files.read(path))!;
    if (path.split('/').pop() === SUMS)
      for (const [of, hash] of readSums(new TextDecoder().decode(bytes))) sums.set(of, hash); // prettier-ignore
    else candidates.push({ path, hash: sha256(bytes) });
  }
  const lacking = referencedFiles(document).filter((path) => !Object.hasOwn(manifest, path));
  const { found, unclear, lost } = relink(lacking, candidates, sums);
  // A folder that was chosen as a whole stands before the paths in it.
  const inShot = (path: string): string | null =>
    [path, path.slice(path.indexOf('/') + 1)].find((one) => Object.hasOwn(manifest, one)) ?? null;
  const newer = candidates.flatMap(({ path: from, hash }) => {
    const path = inShot(from);
    return path !== null && manifest[path] !== hash ? [{ path, from }] : [];
  });
  const taken: Record<string, string> = {};
  const read = async (path: string) => (await files.read(path))!;
  for (const { path, from } of found) taken[path] = await context.blobs.put(await read(from));
  for (const { path, from } of newer) taken[path] = await context.blobs.put(await read(from));
  if (Object.keys(taken).length === 0) {
    const why = unclear.length
      ? `${unclear[0].path} could be ${unclear[0].from.join(' or ')}`
      : `none is called like one that is missing${lost.length ? ` (${lost.slice(0, 3).join(', ')})` : ''}, and none is newer than one that is there`;
    throw conflict(`Nothing was taken of ${plural(files.paths.length, 'file')}: ${why}.`);
  }
  // Files of fragments come with their fragments; the whole is read once before it is kept.
  const after = { ...manifest, ...taken };
  const whole = async (path: string) => {
    if (Object.hasOwn(after, path)) return context.blobs.get(after[path]);
    const brought = await files.read(path);
    if (brought) taken[path] = after[path] = await context.blobs.put(brought);
    return brought;
  };
  await neededFiles(document, whole, code, 'stand in');
  const names = Object.keys(taken);
  await context.db.transaction(async (tx) => {
    const { shot, head: now } = await lockHead(tx, code);
    needBase(now, base);
    const reason = `Brought in ${names.slice(0, 5).join(', ')}${names.length > 5 ? ` and ${names.length - 5} more` : ''}`;
    await addVersion(context, tx, shot, now, [], reason, taken);
  });
  return { found, replaced: newer.map(({ path }) => path), unclear, lost };
}
