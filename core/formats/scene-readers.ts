/**
 * The formats that scenes come in. Another one is a folder that exports a reader, and a line here.
 */
import { readGltf } from './gltf/read.ts';
import { readObj } from './obj/read.ts';
import { extensionOf } from './paths.ts';
import type { SceneFiles } from './scene-files.ts';
import type { ReadOptions } from './scene-reading.ts';
import { findSiblings } from './siblings.ts';
import type { SourceScene } from './source-scene.ts';
import { readUsd } from './usd/read.ts';

export interface SceneReader {
  format: SourceScene['format'];
  /** Without the dot. */
  extensions: string[];
  read(bytes: Uint8Array, file: string, files: SceneFiles, options?: ReadOptions): Promise<SourceScene>;
}

export const SCENE_READERS: SceneReader[] = [
  { format: 'glTF', extensions: ['gltf', 'glb'], read: readGltf },
  { format: 'OBJ', extensions: ['obj'], read: readObj },
  { format: 'USD', extensions: ['usda', 'usd'], read: readUsd },
];

export const readerOf = (file: string): SceneReader | null =>
  SCENE_READERS.find(({ extensions }) => extensions.includes(extensionOf(file))) ?? null;

/**
 * Reads a scene whatever its format.
 * @throws RangeError that names the file, when it is of no known format or cannot be read
 */
export async function readScene(file: string, files: SceneFiles, options: ReadOptions = {}): Promise<SourceScene> {
  const reader = readerOf(file);
  const known = SCENE_READERS.flatMap(({ extensions }) => extensions).join(', .');
  if (!reader) throw new RangeError(`${file}: is of no format that is read here (.${known})`);
  const bytes = await files.read(file);
  if (!bytes) throw new RangeError(`${file}: is not there`);
  if (bytes.byteLength === 0) throw new RangeError(`${file}: is empty`);
  const scene = await reader.read(bytes, file, files, options);
  await findSiblings(scene, files);
  return scene;
}

/**
 * The scene among the files of a folder: the one that stands highest.
 * @throws RangeError naming the candidates when there is none or more than one
 */
export function findScene(paths: string[]): string {
  const scenes = paths.filter((path) => readerOf(path));
  const depth = (path: string) => path.split('/').length;
  const least = Math.min(...scenes.map(depth));
  const highest = scenes.filter((path) => depth(path) === least);
  if (highest.length === 1) return highest[0];
  const found = highest.length ? highest.slice(0, 5).join(', ') : 'none';
  throw new RangeError(`expected one scene in the folder, found ${found}`);
}
