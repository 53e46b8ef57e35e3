/** `dusting bake`: a map of a shot as an image, for renderers that cannot compute it. */
import { writeFile } from 'node:fs/promises';
import { srgbFromLinear } from '../core/data/colour.ts';
import { writePng } from '../core/formats/png.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import { bakeMap } from '../core/textures/bake.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { numbersOption, parseOptions } from './options.ts';

export const BAKE_USAGE = 'dusting bake <shot folder> --map id --size WxH --out file.png';

const OPTIONS = {
  map: { type: 'string' },
  size: { type: 'string', default: '1024x1024' },
  out: { type: 'string' },
} as const;

export async function bakeCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, BAKE_USAGE);
  if (positionals.length !== 1 || !values.map || !values.out) throw new BadUse(BAKE_USAGE);
  const [width, height] = numbersOption('size', values.size, 'x', 2, '1024x1024')!;
  const shot = await openShot(positionals[0], {});
  const ids = Object.keys(shot.document.maps).sort();
  const index = ids.indexOf(values.map);
  if (index < 0) throw new BadUse(`There is no map "${values.map}"; there are ${ids.join(', ') || 'none'}.`);
  const scene = compileScene(shot.document, await shot.load(shot.document), shot.document.sheets.preview);
  const { texels } = bakeMap(scene.maps[index], scene.chains, width, height);
  const bytes = Uint8Array.from(texels, (v) => Math.round(255 * srgbFromLinear(Math.min(1, Math.max(0, v)))));
  await writeFile(values.out, writePng(width, height, bytes));
  console.log(`${values.out}: ${width} × ${height} texels of map ${values.map}, sRGB`);
}
