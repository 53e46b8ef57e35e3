/** What a sequence is charted by, of each frame: brightness, noise, and pixels that stick out. */
import { findFireflies } from '../fireflies.ts';
import { noiseOf, type PictureNoise } from '../noise.ts';

export interface FrameFigures {
  /** Mean luminance of finite pixels, linear. */
  mean: number;
  /** The same with each pixel at display white at most: how bright it is to see, whatever single pixels do. */
  shown: number;
  noise: PictureNoise;
  /** Pixels that stand out of their neighbourhood like fireflies. */
  outliers: number;
}

/** @param luminances linear. @param sigma standard error of each pixel, or null where it is not known */
export function frameFigures(
  luminances: ArrayLike<number>,
  sigma: ArrayLike<number> | null,
  width: number,
  height: number,
): FrameFigures {
  let [sum, shown, count] = [0, 0, 0];
  for (let i = 0; i < luminances.length; i++)
    if (Number.isFinite(luminances[i])) {
      sum += luminances[i];
      shown += Math.min(1, luminances[i]);
      count += 1;
    }
  return {
    mean: count ? sum / count : 0,
    shown: count ? shown / count : 0,
    noise: noiseOf(luminances, sigma, width, height),
    outliers: findFireflies({ luminance: luminances, width, height }).pixels.length,
  };
}
