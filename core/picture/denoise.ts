/**
 * A denoiser that stands in for others: non-local means over patches, told by the noise of each pixel how far two may
 * differ, and held at edges by guides without noise (albedo, normal, depth). It answers whether a picture would denoise,
 * not how well the best of them does. Source: Buades, Coll & Morel 2005; Rousselle, Knaus & Zwicker, "Adaptive Rendering
 * with Non-Local Means Filtering", 2012, for the distance.
 *
 * @example
 * const clean = denoise({ luminance, sigma, width, height, guides: [albedo] });
 */
import { boxMean } from './measured.ts';

export interface DenoiseInput {
  /** Linear, row by row. */
  luminance: ArrayLike<number>;
  /** Standard error of each pixel, linear. */
  sigma: ArrayLike<number>;
  width: number;
  height: number;
  /** Planes without noise; each is compared in units of its own spread over the picture. */
  guides?: ArrayLike<number>[];
}

/** Pixels to each side among which like ones are looked for, and those of a patch. */
const SEARCH = 5;
const PATCH = 1;
/** How many deviations two patches may differ and still be mixed by half or so. */
const STRENGTH = 0.45;
/** Distance of what cannot be compared. */
const FAR = 1e6;
/** Share of a guide's spread that holds an edge. */
const GUIDE = 0.1;

export function denoise({ luminance, sigma, width, height, guides = [] }: DenoiseInput): Float32Array {
  const [sums, weights] = [new Float64Array(width * height), new Float64Array(width * height)];
  const scales = guides.map((guide) => 1 / Math.max(1e-12, (GUIDE * deviationOf(guide)) ** 2));
  const apart = new Float64Array(width * height);
  // One offset at a time: distances of patches are then means of distances of pixels.
  for (let dy = -SEARCH; dy <= SEARCH; dy++)
    for (let dx = -SEARCH; dx <= SEARCH; dx++) {
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const i = y * width + x;
          const j = Math.max(0, Math.min(height - 1, y + dy)) * width + Math.max(0, Math.min(width - 1, x + dx));
          const [vi, vj] = [sigma[i] ** 2, sigma[j] ** 2];
          const beyond = (luminance[i] - luminance[j]) ** 2 - (vi + Math.min(vi, vj));
          const distance = i === j ? 0 : beyond / (1e-10 + STRENGTH ** 2 * (vi + vj));
          apart[i] = distance - distance === 0 ? distance : FAR;
        }
      const patches = boxMean(apart, width, height, PATCH);
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y++)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x++) {
          const [i, j] = [y * width + x, (y + dy) * width + x + dx];
          const value = luminance[j];
          if (value - value !== 0) continue;
          let distance = patches[i];
          for (let g = 0; g < guides.length; g++) distance += (guides[g][i] - guides[g][j]) ** 2 * scales[g];
          const w = Math.exp(-Math.max(0, distance));
          sums[i] += w * value;
          weights[i] += w;
        }
    }
  return Float32Array.from(sums, (sum, i) => (weights[i] > 0 ? sum / weights[i] : luminance[i]));
}

function deviationOf(plane: ArrayLike<number>): number {
  let [mean, squares, n] = [0, 0, 0];
  for (let i = 0; i < plane.length; i++) {
    if (plane[i] - plane[i] !== 0) continue;
    n += 1;
    const d = plane[i] - mean;
    mean += d / n;
    squares += d * (plane[i] - mean);
  }
  return n > 0 ? Math.sqrt(squares / n) : 0;
}
