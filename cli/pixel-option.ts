import type { Sheet } from '../core/document/schema.ts';
import { BadUse } from './bad-use.ts';
import { numbersOption } from './options.ts';

/**
 * `--pixel x,y`, a pixel of a sheet's frame.
 * @throws BadUse where it is missing or lies outside
 */
export function pixelOption(text: string | undefined, { width, height }: Sheet, usage: string): [number, number] {
  const pixel = numbersOption('pixel', text, ',', 2, '48,32');
  if (!pixel) throw new BadUse(`Name the pixel: --pixel x,y.\n${usage}`);
  const [x, y] = pixel;
  if (x >= width || y >= height)
    throw new BadUse(`--pixel ${x},${y} does not lie in the frame, ${width} × ${height} pixels.`);
  return [x, y];
}
