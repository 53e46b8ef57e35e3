/** Maps that are computed, drawn as images over UV 0 to 1, for renderers that only have images. */
import type { RepairWork } from '../../contracts/intake.ts';
import { srgbFromLinear } from '../../data/colour.ts';
import { defaultMap } from '../../document/defaults.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { AnyMapSpec, MapSpec, ShotDocument } from '../../document/schema.ts';
import { writePng } from '../../formats/png.ts';
import { bakeMap } from '../../textures/bake.ts';
import { compileMap } from '../../textures/compiled-map.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';

export async function bakeMaps(
  document: ShotDocument,
  { texels }: Extract<RepairWork, { kind: 'bake maps' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.textures };
  const added: JsonPatch = [];
  const values: Record<string, AnyMapSpec> = {};
  for (const [id, side] of Object.entries(texels)) {
    const map = document.maps[id];
    if (map.kind === 'image' || map.kind === 'shared') throw new RangeError(`map "${id}" is not one to bake`);
    const { texels: drawn } = bakeMap(compileMap(map, []), [], side, side);
    // What is worn as data alone stays linear, as data is.
    const colourSpace = isColour(document, id) ? 'srgb' : 'linear';
    const curve = colourSpace === 'srgb' ? srgbFromLinear : (v: number) => v;
    const bytes = Uint8Array.from(drawn, (v) => Math.round(255 * curve(Math.min(1, Math.max(0, v)))));
    const file = await files.add(`textures/baked-${id}`, '.png', writePng(side, side, bytes));
    const texture = ids.of(taken, `baked-${id}`);
    taken[texture] = null;
    added.push({ op: 'add', path: `/textures/${texture}`, value: { file, colourSpace } });
    values[`/maps/${id}`] = imageOf(map, texture);
  }
  return [...added, ...replaceValues(document, values)];
}

const isColour = ({ materials }: ShotDocument, map: string): boolean =>
  Object.values(materials).some(({ baseColourMap, emissionMap }) => baseColourMap === map || emissionMap === map);

/** Scale, rotation and offset are in the drawing already where they count; what reads the object's space stands once over the UVs. */
function imageOf(map: MapSpec, texture: string): MapSpec {
  const { name, uvSet, channel } = map;
  return { ...defaultMap('image'), texture, name, uvSet, channel } as MapSpec;
}
