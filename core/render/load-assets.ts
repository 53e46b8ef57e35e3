/** Reads what a document refers to, through whatever keeps the files. */
import type { Mesh } from '../data/mesh.ts';
import type { Texture } from '../data/texture.ts';
import { InvalidInput, type Problem } from '../document/problem.ts';
import type { ShotDocument } from '../document/schema.ts';
import { readGlb, type GlbFile } from '../formats/gltf.ts';
import { readPngTexture } from '../formats/png.ts';
import type { Assets } from './compile.ts';

/** Gives a file's bytes by its path relative to the shot folder, or null when it is not there. */
export type ReadFile = (path: string) => Promise<Uint8Array | null>;

/**
 * @param what the shot's name in messages
 * @throws InvalidInput with the JSON pointer of every reference that is missing or cannot be used
 */
export async function loadAssets(document: ShotDocument, read: ReadFile, what: string): Promise<Assets> {
  const meshes = new Map<string, Mesh>();
  const textures = new Map<string, Texture>();
  const problems: Problem[] = [];
  const files = new Map<string, Promise<GlbFile>>();
  const bytesOf = async (path: string) => {
    const bytes = await read(path);
    if (!bytes) throw new RangeError('no such file in the shot folder');
    return bytes;
  };
  const attempt = async (pointer: string, value: string, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      problems.push({ path: pointer, value, expected: `something usable (${error.message})` });
    }
  };
  for (const [id, { file, mesh, primitive }] of Object.entries(document.meshes))
    await attempt(`/meshes/${id}`, JSON.stringify(file), async () => {
      let glb = files.get(file);
      if (!glb) files.set(file, (glb = bytesOf(file).then((bytes) => readGlb(bytes, file))));
      meshes.set(id, (await glb).mesh(mesh, primitive));
    });
  for (const [id, { file, colourSpace }] of Object.entries(document.textures))
    await attempt(`/textures/${id}`, JSON.stringify(file), async () => {
      textures.set(id, readPngTexture(await bytesOf(file), colourSpace, file));
    });
  if (problems.length) throw new InvalidInput(what, problems);
  return { meshes, textures };
}

/** Every file a document refers to, each once. */
export function referencedFiles(document: ShotDocument): string[] {
  const files = [...Object.values(document.meshes), ...Object.values(document.textures)].map((r) => r.file);
  return [...new Set(files)].sort();
}
