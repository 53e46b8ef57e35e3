/** The files around a scene on disk. */
import { readdir, readFile, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import type { SceneFiles } from '../core/formats/scene-files.ts';

/** What is larger is refused before memory is taken. */
const LARGEST = 2 * 2 ** 30;

/** Paths that lead out of the folder are followed: in a shell people have their own disk before them. */
export function filesInFolder(folder: string): SceneFiles {
  return {
    read: async (path) => {
      const place = resolve(folder, path);
      const found = await stat(place).catch(() => null);
      if (!found?.isFile()) return null;
      if (found.size > LARGEST)
        throw new RangeError(
          `${path}: has ${(found.size / 2 ** 30).toFixed(1)} GB; files of up to ${LARGEST / 2 ** 30} GB are read`,
        );
      return new Uint8Array(await readFile(place));
    },
    otherCase: async (path) => {
      let at = '';
      for (const part of path.split('/')) {
        const names: string[] = await readdir(join(folder, at)).catch(() => []);
        const name = names.includes(part) ? part : names.find((n) => n.toLowerCase() === part.toLowerCase());
        if (name === undefined) return null;
        at = at ? `${at}/${name}` : name;
      }
      return at;
    },
  };
}
