/** Places spread evenly over a picture. */

import type { Place, SurfaceWalk } from './surface-walk.ts';

export interface GridPlace {
  /** Middle of its block of pixels. */
  x: number;
  y: number;
  place: Place;
}

/**
 * @param about how many there are to be; pixels that show no surface have none
 * @param seesGlass places on glass are places; otherwise it is looked through
 * @returns them row by row, and the pixels on a side of a place's block
 */
export function placesOver(
  walk: SurfaceWalk,
  { width, height }: { width: number; height: number },
  about: number,
  seesGlass = false,
) {
  const step = Math.max(1, Math.round(Math.sqrt((width * height) / about)));
  const places: GridPlace[] = [];
  for (let y = step >> 1; y < height; y += step)
    for (let x = step >> 1; x < width; x += step) {
      const place = seesGlass ? walk.firstAt(x, y) : walk.surfaceAt(x, y);
      if (place) places.push({ x, y, place });
    }
  return { step, places };
}

/**
 * A byte a pixel, 1 in the blocks that places stand for.
 * @param step pixels on a side of a block
 * @param places upper left corners of their blocks
 */
export function maskOfBlocks(
  { width, height }: { width: number; height: number },
  step: number,
  places: readonly { x: number; y: number }[],
): Uint8Array {
  const mask = new Uint8Array(width * height);
  for (const { x, y } of places)
    for (let row = y; row < Math.min(height, y + step); row++)
      mask.fill(1, row * width + x, row * width + Math.min(width, x + step));
  return mask;
}

/** Upper left corner of the block of a place in its middle. */
export const cornerOf = ({ x, y }: { x: number; y: number }, step: number) => ({
  x: x - (step >> 1),
  y: y - (step >> 1),
});

/**
 * Blocks over a frame, row by row: how many there are, and the number of each place's.
 * @param step pixels on a side of a block, as `placesOver` has it
 */
export function cellsOf(
  { width, height }: { width: number; height: number },
  step: number,
  places: readonly GridPlace[],
): { width: number; height: number; cells: Int32Array } {
  const across = (pixels: number) => Math.max(0, Math.ceil((pixels - (step >> 1)) / step));
  const columns = across(width);
  const cells = Int32Array.from(places, ({ x, y }) => Math.floor(y / step) * columns + Math.floor(x / step));
  return { width: columns, height: across(height), cells };
}
