/** `dusting compare`: how far two pictures are from each other, and where. */
import { compareColours, type ColourDifference } from '../core/picture/compare.ts';
import { BadUse } from './bad-use.ts';
import { numberOption, parseOptions } from './options.ts';
import { readPicture, type ReadPicture } from './read-picture.ts';
import { needWritable, writePicture } from './write-picture.ts';

export const COMPARE_USAGE = `dusting compare <picture A> <picture B> [--layer name] [--out diff.png|.exr|.pfm [--exposure stops]] [--json]`;

const OPTIONS = {
  layer: { type: 'string' },
  out: { type: 'string' },
  exposure: { type: 'string', default: '0' },
  json: { type: 'boolean', default: false },
} as const;

export async function compareCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, COMPARE_USAGE);
  if (positionals.length !== 2) throw new BadUse(`Name two pictures.\n${COMPARE_USAGE}`);
  if (values.out !== undefined) needWritable(values.out, '--out');
  const exposure = numberOption('exposure', values.exposure, -30, 30);
  const [a, b] = await Promise.all(positionals.map((path) => readPicture(path, values.layer)));
  const found = compareColours(a, b);
  if (values.out !== undefined) await writePicture(values.out, differenceOf(a, b, found), exposure, a.display);
  console.log(values.json ? JSON.stringify(found) : tell(found));
}

/** Absolute differences over what both have. */
function differenceOf(a: ReadPicture, b: ReadPicture, { x, y, width, height }: ColourDifference) {
  const plane = (c: number) =>
    Float32Array.from({ length: width * height }, (_, i) => {
      const [px, py] = [x + (i % width), y + Math.floor(i / width)];
      return Math.abs(b.planes[c][(py - b.y) * b.width + px - b.x] - a.planes[c][(py - a.y) * a.width + px - a.x]);
    });
  return { x, y, width, height, planes: [plane(0), plane(1), plane(2)] as [Float32Array, Float32Array, Float32Array] };
}

function tell(found: ColourDifference): string {
  const { width, height, isAligned, rmse, psnr, ssim, stops, most, notFinite } = found;
  return [
    `${width} × ${height} pixels${isAligned ? `, those that both have, from ${found.x}, ${found.y}` : ''}`,
    `RMSE ${rmse.toPrecision(4)} (linear), PSNR ${psnr.toFixed(2)} dB (display), SSIM ${ssim.toFixed(4)}`,
    `B is ${Math.abs(stops).toFixed(3)} stops ${stops < 0 ? 'darker' : 'brighter'}; they differ most, by ${most.difference.toPrecision(4)}, at ${most.x}, ${most.y}`,
    ...(notFinite ? [`${notFinite} pixels that are no numbers are left out`] : []),
  ].join('\n');
}
