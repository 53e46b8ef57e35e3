/** Folders in which uploads stand while they come in: each is somebody's, or left over from a process that died. */
import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';

const inUse = new Set<string>();

/** Gives a folder of its own to some work, and removes it however that ends. */
export async function withFolder<T>(uploads: string, use: (folder: string) => Promise<T>): Promise<T> {
  await mkdir(uploads, { recursive: true });
  const own = await mkdtemp(join(uploads, 'upload-'));
  inUse.add(basename(own));
  try {
    return await use(own);
  } finally {
    await rm(own, { recursive: true, force: true, maxRetries: 3 });
    inUse.delete(basename(own));
  }
}

/** Removes what no work of this process uses. @returns how many */
export async function removeLeftovers(uploads: string): Promise<number> {
  let removed = 0;
  for (const name of await readdir(uploads).catch(() => [])) {
    if (inUse.has(name) || !name.startsWith('upload-')) continue;
    await rm(join(uploads, name), { recursive: true, force: true });
    removed += 1;
  }
  return removed;
}
