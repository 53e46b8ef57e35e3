/** A shot folder, or a scene of an open format, as a document and what it refers to. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join, resolve, sep } from 'node:path';
import { parseDocument } from '../core/document/validate.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import { toShot } from '../core/intake/to-shot.ts';
import type { Assets } from '../core/render/compile/assets.ts';
import { loadAssets } from '../core/render/compile/load-assets.ts';
import { BadUse } from './bad-use.ts';
import { openScene } from './open-scene.ts';

export interface OpenShot {
  document: ShotDocument;
  warnings: string[];
  /** Meshes and textures of the document, as it is by then. */
  load(document: ShotDocument): Promise<Assets>;
}

export async function openShot(path: string, size: { width?: number; height?: number }): Promise<OpenShot> {
  if (!existsSync(path)) throw new BadUse(`There is no "${path}".`);
  if (statSync(path).isDirectory() && existsSync(join(path, 'shot.json'))) return openFolder(path);
  const { document, files, notUnderstood } = await toShot(await openScene(path), size);
  return {
    document,
    warnings: notUnderstood.map(({ where, what }) => `${where}: ${what}`),
    load: (patched) => loadAssets(patched, async (file) => files.get(file) ?? null, path),
  };
}

async function openFolder(path: string): Promise<OpenShot> {
  const place = join(path, 'shot.json');
  const document = parseDocument(await readFile(place, 'utf8'), place);
  const read = (file: string) => readBelow(path, file);
  return { document, warnings: [], load: (patched) => loadAssets(patched, read, place) };
}

async function readBelow(folder: string, file: string): Promise<Uint8Array | null> {
  const place = resolve(folder, file);
  if (!place.startsWith(resolve(folder) + sep) || !existsSync(place)) return null;
  return new Uint8Array(await readFile(place));
}
