/**
 * How many samples it would really take. A sample finds the light with a chance p, told by how many pixels found it;
 * once a pixel finds it 16 times, its light is within a quarter of the mean and nothing stands out by two stops. Each
 * sample brings no more than the light sends out, so the variance is finite and such a number exists.
 */
import type { Region } from '../../../data/picture.ts';

const HITS = 16;

/** @param found fireflies in the region. @param samples per pixel */
export function samplesNeeded(
  found: number,
  { width, height }: Pick<Region, 'width' | 'height'>,
  samples: number,
): number {
  const chance = found / (width * height * samples);
  return 4 * Math.ceil(HITS / chance / 4);
}
