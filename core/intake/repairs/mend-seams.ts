/** Displacement textures made anew so that seams close, as float images beside the old ones. */
import type { RepairWork } from '../../contracts/intake.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument, TextureSpec } from '../../document/schema.ts';
import type { Texture } from '../../data/texture.ts';
import { fileName } from '../../formats/paths.ts';
import { loadAssets } from '../../render/compile/load-assets.ts';
import { isTiled, tilesOf } from '../../seams/fill-tiles.ts';
import { mendTexture } from '../../seams/mend-texture.ts';
import { wornShapes } from '../../seams/worn-shapes.ts';
import { TILE, tileFile } from '../../textures/tiles.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';
import { exrOf } from './texture-file.ts';

const SUFFIX = { pad: 'padded', match: 'matched', 'fill tiles': 'filled' };

export async function mendSeams(
  document: ShotDocument,
  { how, textures }: Extract<RepairWork, { kind: 'mend seams' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const assets = await loadAssets(document, files.read, document.code, 'stand in');
  // As finely as any sheet has it.
  const sheet = { ...document.sheets.final, mostSubdivision: null };
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.textures };
  const added: JsonPatch = [];
  const values: Record<string, unknown> = {};
  for (const [id, texels] of Object.entries(textures)) {
    const { file } = document.textures[id];
    const wear = (texture: Texture) =>
      wornShapes(
        { document, assets: { ...assets, textures: new Map(assets.textures).set(id, texture) }, sheet },
        (object) => mapsOf(document, id).includes(document.materials[document.objects[object].material].displacementMap ?? ''), // prettier-ignore
      );
    const mended = mendTexture(how, assets.textures.get(id)!, { wear, texels, where: file });
    const own = ids.of(taken, `${id}-${SUFFIX[how]}`);
    taken[own] = null;
    added.push({ op: 'add', path: `/textures/${own}`, value: await write(files, stemOf(file, SUFFIX[how]), mended) });
    for (const map of mapsOf(document, id)) values[`/maps/${map}/texture`] = own;
  }
  return [...added, ...replaceValues(document, values)];
}

/** Maps that move surfaces by a texture. */
function mapsOf({ maps, materials }: ShotDocument, texture: string): string[] {
  const moving = new Set(Object.values(materials).map(({ displacementMap }) => displacementMap));
  return Object.entries(maps).flatMap(([id, map]) => (moving.has(id) && map.kind === 'image' && map.texture === texture ? [id] : [])); // prettier-ignore
}

const stemOf = (file: string, suffix: string): string =>
  `textures/${fileName(file).replace(/\.[^.]*$/, '').replace(`.${TILE}`, '').replace(TILE, '')}-${suffix}`; // prettier-ignore

async function write(files: NewFiles, stem: string, texture: Texture): Promise<TextureSpec> {
  if (!isTiled(texture)) return { file: await files.add(stem, '.exr', exrOf(texture)), colourSpace: 'linear' };
  const tiles = [...tilesOf(texture)];
  const file = await files.addAll(`${stem}`, `.${TILE}.exr`, (path) => new Map(tiles.map(([tile, one]) => [tileFile(path, tile), exrOf(one)]))); // prettier-ignore
  return { file, colourSpace: 'linear', tiles: tiles.map(([tile]) => tile) };
}
