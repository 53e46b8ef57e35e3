/** A scene by its path: a file, or a folder with one scene in it. */
import { existsSync, readdirSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { findScene, readScene } from '../core/formats/scene-readers.ts';
import type { SourceScene } from '../core/formats/source-scene.ts';
import { BadUse } from './bad-use.ts';
import { filesInFolder } from './folder-files.ts';

export async function openScene(path: string): Promise<SourceScene> {
  if (!existsSync(path)) throw new BadUse(`There is no "${path}".`);
  const isFolder = statSync(path).isDirectory();
  const folder = isFolder ? path : dirname(path);
  const file = isFolder ? findScene(readdirSync(path)) : basename(path);
  if (!statSync(join(folder, file)).isFile()) throw new BadUse(`"${path}" is no file.`);
  return readScene(file, filesInFolder(folder));
}
