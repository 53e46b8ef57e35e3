/** `dusting convert`: a picture, or a layer of one, in another format. */
import { BadUse } from './bad-use.ts';
import { numberOption, parseOptions } from './options.ts';
import { readPicture } from './read-picture.ts';
import { needWritable, writePicture } from './write-picture.ts';

export const CONVERT_USAGE = `dusting convert <picture> <out.exr|.hdr|.pfm|.png> [--layer name] [--exposure stops]`;

const OPTIONS = { layer: { type: 'string' }, exposure: { type: 'string', default: '0' } } as const;

export async function convertCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, CONVERT_USAGE);
  if (positionals.length !== 2) throw new BadUse(`Name a picture and where it goes.\n${CONVERT_USAGE}`);
  const [from, to] = positionals;
  needWritable(to, 'The picture to write');
  const exposure = numberOption('exposure', values.exposure, -30, 30);
  const picture = await readPicture(from, values.layer);
  await writePicture(to, picture, exposure, picture.display);
  console.log(`${to}: ${picture.width} × ${picture.height} pixels${picture.layer ? ` of ${picture.layer}` : ''}`);
}
