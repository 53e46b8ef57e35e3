/** What a sequence is charted by, of each frame: brightness, noise, and pixels that stick out. */
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
    outliers: outliersIn(luminances, width, height).reduce((a, b) => a + b, 0),
  };
}

/** Stops above the second brightest of its neighbours from which a pixel is an outlier, and the least it can be. */
const ABOVE = 2;
const LEAST = 0.05;

/** A byte a pixel, 1 where it stands out: a single pixel, or two side by side; a thin line or an edge does not. */
export function outliersIn(luminances: ArrayLike<number>, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  const factor = 2 ** ABOVE;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const value = luminances[y * width + x];
      if (!(value > LEAST)) continue;
      let [first, second] = [0, 0];
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          if (dx === 0 && dy === 0) continue;
          // Mirrored at the edges, so that a line that ends there is still a line.
          const px = x + dx < 0 || x + dx >= width ? x - dx : x + dx;
          const py = y + dy < 0 || y + dy >= height ? y - dy : y + dy;
          const other = luminances[py * width + px] ?? 0;
          if (other > first) [first, second] = [other, first];
          else if (other > second) second = other;
        }
      if (value > factor * Math.max(second, LEAST / factor)) out[y * width + x] = 1;
    }
  return out;
}
