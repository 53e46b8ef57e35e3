/** Places spread evenly over a picture. */
import type { LightWalk, Place } from './light-walk.ts';

export interface GridPlace {
  /** Middle of its block of pixels. */
  x: number;
  y: number;
  place: Place;
}

/**
 * @param about how many there are to be; pixels that show no surface have none
 * @returns them row by row, and the pixels on a side of a place's block
 */
export function placesOver(walk: LightWalk, { width, height }: { width: number; height: number }, about: number) {
  const step = Math.max(1, Math.round(Math.sqrt((width * height) / about)));
  const places: GridPlace[] = [];
  for (let y = step >> 1; y < height; y += step)
    for (let x = step >> 1; x < width; x += step) {
      const place = walk.surfaceAt(x, y);
      if (place) places.push({ x, y, place });
    }
  return { step, places };
}
