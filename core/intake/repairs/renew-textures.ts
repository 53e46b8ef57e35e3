/** Textures made anew beside the old ones, each in a file of its own; every map, environment and background that shows one gets the new one. */
import type { Texture } from '../../data/texture.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { readImageHeader } from '../../formats/image-header.ts';
import { readTexture } from '../../formats/texture-readers.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';
import { exrOf, pngOf } from './texture-file.ts';

export interface Renewal {
  /** Id of the texture. */
  id: string;
  /** Put behind its name for the new one. */
  suffix: string;
  make(texture: Texture): Texture;
}

/** @throws RangeError when an image is not there or cannot be read */
export async function renewTextures(document: ShotDocument, renewals: Renewal[], files: NewFiles): Promise<JsonPatch> {
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.textures };
  const added: JsonPatch = [];
  const values: Record<string, unknown> = {};
  for (const { id, suffix, make } of renewals) {
    const { file, colourSpace } = document.textures[id];
    const bytes = await files.read(file);
    if (!bytes) throw new RangeError(`${file}, the image of texture "${id}", is not there`);
    const made = make(readTexture(bytes, colourSpace, file));
    const header = readImageHeader(bytes);
    // What a TIFF holds stands in its directory: floats keep it, whatever it is.
    const isDeep = header?.kind === 'TIFF' || (header?.bits ?? 8) > 8;
    const path = await files.add(`textures/${id}-${suffix}`, isDeep ? '.exr' : '.png', isDeep ? exrOf(made) : pngOf(made, colourSpace)); // prettier-ignore
    const own = ids.of(taken, `${id}-${suffix}`);
    taken[own] = null;
    // Floats are linear, whatever the old file was.
    added.push({ op: 'add', path: `/textures/${own}`, value: { file: path, colourSpace: isDeep ? 'linear' : colourSpace } }); // prettier-ignore
    for (const [map, spec] of Object.entries(document.maps)) if (spec.kind === 'image' && spec.texture === id) values[`/maps/${map}/texture`] = own; // prettier-ignore
    for (const part of ['environment', 'background'] as const) if (document[part]?.texture === id) values[`/${part}/texture`] = own; // prettier-ignore
  }
  return [...added, ...replaceValues(document, values)];
}
