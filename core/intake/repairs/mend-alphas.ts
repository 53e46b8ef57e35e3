/** Colour images with their edges put right, as 8-bit images beside the old ones; every map that shows one gets it. */
import type { RepairWork } from '../../contracts/intake.ts';
import { srgbFromLinear } from '../../data/colour.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { writePng } from '../../formats/png.ts';
import { readTexture } from '../../formats/texture-readers.ts';
import { mendAlpha } from '../../textures/mend-alpha.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';

const SUFFIX = { divide: 'straight', bleed: 'bled' };

/** @throws RangeError when an image is not there or cannot be read */
export async function mendAlphas(
  document: ShotDocument,
  { how, textures }: Extract<RepairWork, { kind: 'mend alpha' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.textures };
  const added: JsonPatch = [];
  const values: Record<string, unknown> = {};
  for (const id of textures) {
    const { file, colourSpace } = document.textures[id];
    const bytes = await files.read(file);
    if (!bytes) throw new RangeError(`${file}, the image of texture "${id}", is not there`);
    const { width, height, texels, alpha } = mendAlpha(how, readTexture(bytes, colourSpace, file));
    const curve = colourSpace === 'srgb' ? srgbFromLinear : (v: number) => v;
    const rgba = new Uint8Array(4 * width * height);
    for (let i = 0; i < width * height; i++) {
      for (let c = 0; c < 3; c++)
        rgba[4 * i + c] = Math.round(255 * curve(Math.min(1, Math.max(0, texels[3 * i + c]))));
      rgba[4 * i + 3] = Math.round(255 * (alpha ? alpha[i] : 1));
    }
    const path = await files.add(`textures/${id}-${SUFFIX[how]}`, '.png', writePng(width, height, rgba));
    const own = ids.of(taken, `${id}-${SUFFIX[how]}`);
    taken[own] = null;
    added.push({ op: 'add', path: `/textures/${own}`, value: { file: path, colourSpace } });
    for (const [map, spec] of Object.entries(document.maps)) if (spec.kind === 'image' && spec.texture === id) values[`/maps/${map}/texture`] = own; // prettier-ignore
  }
  return [...added, ...replaceValues(document, values)];
}
