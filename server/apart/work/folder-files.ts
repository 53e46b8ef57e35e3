/** The files of a shot on their way in, below a folder. */
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';

export interface ShotFiles {
  folder: string;
  /** Relative paths with forward slashes. */
  paths: string[];
  /** Null when there is no such file. */
  read(path: string): Promise<Uint8Array | null>;
}

export async function filesInFolder(folder: string): Promise<ShotFiles> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const paths = entries
    .filter((entry) => entry.isFile())
    .map((entry) =>
      join(entry.parentPath, entry.name)
        .slice(folder.length + 1)
        .replaceAll('\\', '/'),
    );
  const known = new Set(paths);
  return { folder, paths, read: async (path) => (known.has(path) ? readFile(join(folder, path)) : null) };
}
