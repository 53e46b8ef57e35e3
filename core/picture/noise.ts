/**
 * How noisy a picture is in its shadows, midtones and highlights, judged as a person sees it: in display steps after the
 * shadow lift. Where the picture comes with its standard error, by that; otherwise by an estimate from the picture.
 *
 * The estimate takes the difference of two Laplacians, which straight edges and slopes leave at 0 (Immerkær, Fast Noise
 * Variance Estimation, 1996), and 1.4826 times the median of its size (Rousseeuw & Croux 1993), apart for each
 * brightness. Texture as fine as a pixel is taken for noise.
 *
 * @example
 * const { zones, isEstimated } = noiseOf(luminance, null, 1920, 1080);
 */
import { visibleGrain } from '../data/grain.ts';

export const ZONES = ['shadows', 'midtones', 'highlights'] as const;
export type Zone = (typeof ZONES)[number];

/** Linear luminance below which all is shadow, and from which on all is highlight. */
export const ZONE_ENDS = [0.05, 0.5] as const;

export interface ZoneNoise {
  /** Of all pixels, 0–1. */
  share: number;
  /** Root mean square of the linear standard deviation; 0 where the zone has no pixel. */
  sigma: number;
  /** Root mean square of visible grain, display steps. */
  grain: number;
}

export interface PictureNoise {
  isEstimated: boolean;
  zones: Record<Zone, ZoneNoise>;
  /** Of all pixels. */
  all: ZoneNoise;
}

export const zoneOf = (y: number): number => (y < ZONE_ENDS[0] ? 0 : y < ZONE_ENDS[1] ? 1 : 2);

/** @param sigma standard error of each pixel; null: it is estimated. Pixels that are no numbers are left out */
export function noiseOf(
  luminances: ArrayLike<number>,
  sigma: ArrayLike<number> | null,
  width: number,
  height: number,
): PictureNoise {
  const isEstimated = sigma === null;
  const { mean, sigma: errors } = sigma ? { mean: luminances, sigma } : estimateNoise(luminances, width, height);
  const sums = Array.from({ length: 4 }, () => ({ count: 0, sigma: 0, grain: 0 }));
  let count = 0;
  for (let i = 0; i < width * height; i++) {
    const [y, s] = [mean[i], errors[i]];
    if (y - y !== 0 || s - s !== 0) continue;
    count += 1;
    const grain = visibleGrain(y, s) ** 2;
    for (const sum of [sums[zoneOf(y)], sums[3]]) {
      sum.count += 1;
      sum.sigma += s * s;
      sum.grain += grain;
    }
  }
  const [shadows, midtones, highlights, all] = sums.map(({ count: own, sigma: s, grain }) => ({
    share: count ? own / count : 0,
    sigma: own ? Math.sqrt(s / own) : 0,
    grain: own ? Math.sqrt(grain / own) : 0,
  }));
  return { isEstimated, zones: { shadows, midtones, highlights }, all };
}

/** Brightnesses told apart: so many to a stop, over so many stops below 2⁴. */
const TO_A_STOP = 1;
const STOPS = 24;
const TOP_STOP = 4;
/** Fewer pixels tell nothing of a brightness. */
const FEWEST = 64;

/** @returns local mean of each pixel, and the standard deviation of noise that pixels of its brightness have */
export function estimateNoise(
  plane: ArrayLike<number>,
  width: number,
  height: number,
): { mean: Float32Array; sigma: Float32Array } {
  // prettier-ignore
  const size = width * height;
  const mean = new Float32Array(size);
  const bin = new Uint8Array(size);
  const bins = STOPS * TO_A_STOP + 1;
  const rest: number[][] = Array.from({ length: bins }, () => []);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const up = y > 0 ? -width : 0;
      const down = y + 1 < height ? width : 0;
      const left = x > 0 ? -1 : 0;
      const right = x + 1 < width ? 1 : 0;
      const corners = plane[i + up + left] + plane[i + up + right] + plane[i + down + left] + plane[i + down + right];
      const sides = plane[i + up] + plane[i + down] + plane[i + left] + plane[i + right];
      mean[i] = (corners + sides + plane[i]) / 9;
      const stop = (Math.log2(Math.max(1e-12, mean[i])) - TOP_STOP + STOPS) * TO_A_STOP;
      bin[i] = Math.max(0, Math.min(bins - 1, Math.round(stop)));
      if (!(up && down && left && right)) continue;
      // Of independent noise of deviation σ this has the deviation 6σ.
      const laplacian = Math.abs(corners - 2 * sides + 4 * plane[i]) / 6;
      if (laplacian - laplacian === 0) rest[bin[i]].push(laplacian);
    }
  const known = rest.map((values) => (values.length < FEWEST ? NaN : 1.4826 * median(values)));
  const sigmas = known.map((value, at) => (Number.isNaN(value) ? nearest(known, at) : value));
  return { mean, sigma: Float32Array.from(bin, (at) => sigmas[at]) };
}

function nearest(known: number[], at: number): number {
  for (let step = 1; step < known.length; step++)
    for (const other of [at - step, at + step]) if (known[other] >= 0) return known[other];
  return 0;
}

function median(values: number[]): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[sorted.length >> 1];
}
