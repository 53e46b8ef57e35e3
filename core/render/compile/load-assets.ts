/** Reads what a document refers to, through whatever keeps the files. */
import type { Mesh } from '../../data/mesh.ts';
import type { Texture } from '../../data/texture.ts';
import { parseJson } from '../../document/json-text.ts';
import { completeFragments } from '../../document/complete.ts';
import { defaultCoat, defaultMap } from '../../document/defaults.ts';
import { InvalidInput, type Problem } from '../../document/problem.ts';
import { checkSchema } from '../../document/schema-check.ts';
import {
  FragmentsSchema,
  type CoatSpec,
  type Fragments,
  type MapSpec,
  type ShotDocument,
  type TextureSpec,
} from '../../document/schema.ts';
import { readGlb, type GlbFile } from '../../formats/gltf.ts';
import { readTexture } from '../../formats/texture-readers.ts';
import { standInTexture } from '../../textures/stand-in.ts';
import { filesOf, joinTiles, TILE, tileFile } from '../../textures/tiles.ts';
import type { Assets } from './assets.ts';

/** Gives a file's bytes by its path relative to the shot folder, or null when it is not there. */
export type ReadFile = (path: string) => Promise<Uint8Array | null>;

/** Fragments may stand in files that refer to further files, so deep at most. */
const DEEPEST = 16;

/** A file that a document names is not there. */
class NotThere extends RangeError {
  constructor(readonly file: string) {
    super('no such file in the shot folder');
  }
}

/**
 * @param what the shot's name in messages
 * @param missing `refuse`, or let something stand in for files that are not there: textures show their name,
 *   objects without their mesh are left out
 * @throws InvalidInput with the JSON pointer of every reference that is missing or cannot be used
 */
export async function loadAssets(
  document: ShotDocument,
  read: ReadFile,
  what: string,
  missing: 'refuse' | 'stand in' = 'refuse',
): Promise<Assets> {
  const meshes = new Map<string, Mesh>();
  const textures = new Map<string, Texture>();
  const shared = { maps: new Map<string, MapSpec>(), coats: new Map<string, CoatSpec>() };
  const problems: Problem[] = [];
  const glbs = new Map<string, Promise<GlbFile>>();
  const bytesOf = async (path: string) => {
    const bytes = await read(path);
    if (!bytes) throw new NotThere(path);
    return bytes;
  };
  const lacking: string[] = [];
  const attempt = async (pointer: string, file: string, work: () => Promise<void>, standIn: () => string) => {
    const value = JSON.stringify(file);
    try {
      await work();
    } catch (error) {
      if (error instanceof NotThere && missing === 'stand in') {
        lacking.push(`File "${error.file}" is not there; ${standIn()}.`);
        return;
      }
      if (!(error instanceof RangeError) && !(error instanceof InvalidInput)) throw error;
      problems.push({ path: pointer, value, expected: `something usable (${error.message})` });
    }
  };
  const image = async (file: string, colourSpace: TextureSpec['colourSpace']) =>
    readTexture(await bytesOf(file), colourSpace, file);
  const texture = async ({ file, colourSpace, tiles = [] }: TextureSpec) => {
    if (!file.includes(TILE)) return image(file, colourSpace);
    const joined = new Map<number, Texture>();
    for (const tile of tiles)
      try {
        joined.set(tile, await image(tileFile(file, tile), colourSpace));
      } catch (error) {
        if (!(error instanceof NotThere) || missing === 'refuse') throw error;
        lacking.push(`File "${error.file}" is not there; its tile is black.`);
      }
    if (joined.size === 0) throw new NotThere(file);
    return joinTiles(joined, file);
  };
  for (const [id, { file, mesh, primitive }] of Object.entries(document.meshes))
    await attempt(
      `/meshes/${id}`,
      file,
      async () => {
        let glb = glbs.get(file);
        if (!glb) glbs.set(file, (glb = bytesOf(file).then((bytes) => readGlb(bytes, file))));
        const found = await glb;
        meshes.set(id, { ...found.mesh(mesh, primitive), polygons: found.polygons(mesh, primitive) });
      },
      () => `objects of mesh "${id}" are left out`,
    );
  for (const [id, spec] of Object.entries(document.textures))
    await attempt(
      `/textures/${id}`,
      spec.file,
      async () => void textures.set(id, await texture(spec)),
      () => {
        textures.set(id, standInTexture(spec.file));
        return `its name is shown in place of texture "${id}"`;
      },
    );
  for (const [id, map] of Object.entries(document.maps))
    if (map.kind === 'shared')
      await attempt(
        `/maps/${id}`,
        map.file,
        async () => {
          const { item, texture: spec } = await findShared(bytesOf, map.file, 'maps', map.item);
          const own = { ...item, ...map.override } as MapSpec;
          if (own.kind === 'image' && spec) {
            own.texture = `${map.file} ${own.texture}`;
            textures.set(own.texture, await texture(spec));
          }
          shared.maps.set(id, own);
        },
        () => {
          textures.set(map.file, standInTexture(map.file));
          shared.maps.set(id, { ...defaultMap('image'), texture: map.file });
          return `its name is shown in place of map "${id}"`;
        },
      );
  for (const [id, coat] of Object.entries(document.coats))
    if (coat.kind === 'shared')
      await attempt(
        `/coats/${id}`,
        coat.file,
        async () => {
          const { item } = await findShared(bytesOf, coat.file, 'coats', coat.item);
          shared.coats.set(id, { ...item, ...coat.override } as CoatSpec);
        },
        () => {
          shared.coats.set(id, { ...defaultCoat(), strength: 0 });
          return `coat "${id}" is left off`;
        },
      );
  if (problems.length) throw new InvalidInput(what, problems);
  return { meshes, textures, shared, missing: lacking };
}

/** Follows a fragment through files that may share it in their turn; a further file's overrides come first. */
export async function findShared<K extends 'maps' | 'coats'>(
  bytesOf: (path: string) => Promise<Uint8Array>,
  file: string,
  kind: K,
  id: string,
): Promise<{ item: MapSpec | CoatSpec; texture: TextureSpec | null }> {
  const overrides: Record<string, unknown>[] = [];
  let at = { file, item: id };
  for (let depth = 0; depth < DEEPEST; depth++) {
    const fragments = readFragments(await bytesOf(at.file), at.file);
    const found = fragments[kind][at.item];
    if (!found) throw new RangeError(`${at.file} has no "${at.item}" among its ${kind}`);
    if (found.kind !== 'shared') {
      const item = Object.assign({}, found, ...overrides.reverse()) as MapSpec | CoatSpec;
      return { item, texture: item.kind === 'image' ? (fragments.textures[item.texture] ?? null) : null };
    }
    overrides.push(found.override);
    at = found;
  }
  throw new RangeError(`${file} refers to further files more than ${DEEPEST} times over`);
}

function readFragments(bytes: Uint8Array, file: string): Fragments {
  let value: unknown;
  try {
    value = completeFragments(parseJson(new TextDecoder().decode(bytes), file));
  } catch (error) {
    throw new RangeError(`${file}: is not JSON text (${(error as Error).message})`, { cause: error });
  }
  checkSchema(FragmentsSchema, value, file);
  return value as Fragments;
}

/** Every file a document itself refers to, each once. */
export function referencedFiles(document: ShotDocument): string[] {
  const shared = [...Object.values(document.maps), ...Object.values(document.coats)].flatMap((item) =>
    item.kind === 'shared' ? [item.file] : [],
  );
  const files = [...Object.values(document.meshes).map(({ file }) => file), ...Object.values(document.textures).flatMap(filesOf)]; // prettier-ignore
  return [...new Set([...files, ...shared])].sort();
}

/**
 * Every file a document needs that is there, fragments of fragments and their textures too.
 * @throws InvalidInput as loading does
 */
export async function neededFiles(
  document: ShotDocument,
  read: ReadFile,
  what: string,
  missing: 'refuse' | 'stand in' = 'refuse',
): Promise<string[]> {
  const found = new Set<string>();
  const noting: ReadFile = async (path) => {
    const bytes = await read(path);
    if (bytes) found.add(path);
    return bytes;
  };
  await loadAssets(document, noting, what, missing);
  return [...found].sort();
}
