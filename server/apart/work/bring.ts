/** Files that a shot lacks, or newer ones of those it has, found among those that came in and kept; apart, see `apart/`. */
import type { BroughtFiles } from '../../../core/contracts/intake.ts';
import type { ShotDocument } from '../../../core/document/schema.ts';
import { plural } from '../../../core/intake/preflight/tell.ts';
import { readSums, relink, type Candidate } from '../../../core/intake/files/relink.ts';
import { neededFiles, referencedFiles } from '../../../core/render/compile/load-assets.ts';
import { sha256, SUMS } from '../../../host/package-zip.ts';
import { BlobStore } from '../../blobs.ts';
import { conflict } from '../../errors.ts';
import { filesInFolder } from './folder-files.ts';

export interface BringTask {
  /** Texts of the version they are for. */
  document: string;
  manifest: string;
  code: string;
  folder: string;
  blobs: string;
}

/** @returns what to tell, and hashes of what was taken by path */
export async function bringTask(task: BringTask): Promise<{ told: BroughtFiles; taken: Record<string, string> }> {
  const files = await filesInFolder(task.folder);
  const blobs = new BlobStore(task.blobs);
  const document = JSON.parse(task.document) as ShotDocument;
  const manifest = JSON.parse(task.manifest) as Record<string, string>;
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
  const newer: { path: string; from: string }[] = [];
  const taken: Record<string, string> = {};
  const read = async (path: string) => (await files.read(path))!;
  for (const { path: from, hash } of candidates) {
    const path = inShot(from);
    if (path === null) continue;
    if (manifest[path] !== hash) newer.push({ path, from });
    // The same bytes once more mend what the disk did to those that are stored.
    else if (!(await isSound(blobs, hash))) taken[path] = await blobs.put(await read(from));
  }
  for (const { path, from } of [...found, ...newer]) taken[path] = await blobs.put(await read(from));
  if (Object.keys(taken).length === 0) {
    const why = unclear.length
      ? `${unclear[0].path} could be ${unclear[0].from.join(' or ')}`
      : `none is called like one that is missing${lost.length ? ` (${lost.slice(0, 3).join(', ')})` : ''}, and none is newer than one that is there`;
    throw conflict(`Nothing was taken of ${plural(files.paths.length, 'file')}: ${why}.`);
  }
  // Files of fragments come with their fragments; the whole is read once before it is kept.
  const after = { ...manifest, ...taken };
  const whole = async (path: string) => {
    if (Object.hasOwn(after, path)) return blobs.get(after[path]);
    const brought = await files.read(path);
    if (brought) taken[path] = after[path] = await blobs.put(brought);
    return brought;
  };
  await neededFiles(document, whole, task.code, 'stand in');
  const mended = Object.keys(taken).filter((path) => manifest[path] === taken[path]);
  return { told: { found, replaced: [...newer.map(({ path }) => path), ...mended], unclear, lost }, taken };
}

const isSound = (blobs: BlobStore, hash: string): Promise<boolean> =>
  blobs.get(hash).then(
    () => true,
    () => false,
  );
