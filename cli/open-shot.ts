/** A shot folder, a .glb or a .gltf as a document and what it refers to. */
import { existsSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { basename, dirname, join, resolve, sep } from 'node:path';
import { parseDocument } from '../core/document/validate.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import { readGltfScene } from '../core/formats/gltf-scene.ts';
import type { Assets } from '../core/render/assets.ts';
import { loadAssets } from '../core/render/load-assets.ts';
import { BadUse } from './bad-use.ts';

export interface OpenShot {
  document: ShotDocument;
  warnings: string[];
  /** Meshes and textures of the document, as it is by then. */
  load(document: ShotDocument): Promise<Assets>;
}

export async function openShot(path: string, size: { width?: number; height?: number }): Promise<OpenShot> {
  if (!existsSync(path)) throw new BadUse(`There is no "${path}".`);
  if (statSync(path).isDirectory()) return openFolder(path);
  const name = basename(path);
  if (/\.(glb|gltf)$/i.test(name)) {
    const bytes = new Uint8Array(await readFile(path));
    const source = /\.gltf$/i.test(name) ? await withResources(bytes, path) : bytes;
    const { document, assets, warnings } = await readGltfScene(source, name, size);
    return { document, warnings, load: async () => assets };
  }
  throw new BadUse(`"${path}" is neither a shot folder nor a .glb or .gltf file.`);
}

async function openFolder(path: string): Promise<OpenShot> {
  const place = join(path, 'shot.json');
  if (!existsSync(place)) throw new BadUse(`"${path}" has no shot.json.`);
  const document = parseDocument(await readFile(place, 'utf8'), place);
  const read = (file: string) => readBelow(path, file);
  return { document, warnings: [], load: (patched) => loadAssets(patched, read, place) };
}

async function readBelow(folder: string, file: string): Promise<Uint8Array | null> {
  const place = resolve(folder, file);
  if (!place.startsWith(resolve(folder) + sep) || !existsSync(place)) return null;
  return new Uint8Array(await readFile(place));
}

/** The JSON of a .gltf and every file it names, which must stand beside it or below. */
async function withResources(bytes: Uint8Array, path: string) {
  let json: { buffers?: { uri?: string }[]; images?: { uri?: string }[] };
  try {
    json = JSON.parse(new TextDecoder().decode(bytes));
  } catch (error) {
    throw new BadUse(`"${path}" is not JSON text (${(error as Error).message}).`, { cause: error });
  }
  const resources: Record<string, Uint8Array> = {};
  for (const { uri } of [...(json.buffers ?? []), ...(json.images ?? [])]) {
    if (uri === undefined || uri.startsWith('data:')) continue;
    const found = await readBelow(dirname(path), decodeURIComponent(uri));
    if (!found) throw new BadUse(`"${path}" names "${uri}", which is not beside it.`);
    resources[uri] = found;
  }
  return { json, resources };
}
