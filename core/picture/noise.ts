/**
 * How noisy a picture is in its shadows, midtones and highlights, judged as a person sees it: in display steps after the
 * shadow lift. Where the picture comes with its standard error, by that; otherwise by an estimate from the picture.
 *
 * The estimate takes the difference of two Laplacians, which straight edges and slopes leave at 0 (Immerkær, Fast Noise
 * Variance Estimation, 1996), and 1.4826 times the median of its size (Rousseeuw & Croux 1993), apart for each
 * brightness. Texture as fine as a pixel is taken for noise.
 *
 * Large pictures are looked at in some of their pixels, evenly spread: more tell no more.
 *
 * @example
 * const { zones, isEstimated } = noiseOf(luminance, null, 1920, 1080);
 */
import { grainWeight, plainDisplay, visibleGrain } from '../data/grain.ts';
import { isByFirefly } from './fireflies.ts';

export const ZONES = ['shadows', 'midtones', 'highlights'] as const;
export type Zone = (typeof ZONES)[number];

/** Linear luminance below which all is shadow, and from which on all is highlight. */
export const ZONE_ENDS = [0.05, 0.5] as const;

export interface ZoneNoise {
  /** Of all pixels, 0–1. */
  share: number;
  /** Root mean square of the linear standard deviation; 0 where the zone has no pixel. */
  sigma: number;
  /** Geometric mean of the same, which the few brightest pixels do not decide: for ratios of two pictures. */
  typical: number;
  /** Root mean square of visible grain with shadows boosted, display steps. */
  grain: number;
  /** The same as the picture is: bright parts, which the boost blows out, show theirs here alone. */
  plain: number;
}

export interface PictureNoise {
  isEstimated: boolean;
  zones: Record<Zone, ZoneNoise>;
  /** Of all pixels. */
  all: ZoneNoise;
}

export const zoneOf = (y: number): number => (y < ZONE_ENDS[0] ? 0 : y < ZONE_ENDS[1] ? 1 : 2);

/** Pixels without noise have a logarithm, too. */
const LEAST_SIGMA = 1e-9;
/** Pixels that are looked at. */
const MOST_LOOKED_AT = 150_000;

/** Every so many-th pixel is looked at; an odd number, so that rows of even length are not met in columns. */
export const noiseStep = (width: number, height: number): number => Math.ceil((width * height) / MOST_LOOKED_AT) | 1;

/**
 * @param sigma standard error of each pixel; null: it is estimated. Pixels that are no numbers are left out
 * @param model deviation of pixels of a local mean, where it was read in another way than from the picture
 */
export function noiseOf(
  luminances: ArrayLike<number>,
  sigma: ArrayLike<number> | null,
  width: number,
  height: number,
  model: ((mean: number) => number) | null = null,
): PictureNoise {
  const skip = sigma ? null : besideFireflies(luminances, width, height);
  const estimate = skip && (model ?? noiseModel(luminances, width, height, skip));
  const sums = Array.from({ length: 4 }, () => ({ count: 0, sigma: 0, log: 0, grain: 0, plain: 0 }));
  let count = 0;
  const step = noiseStep(width, height);
  for (let i = 0; i < width * height; i += step) {
    if (skip?.[i]) continue;
    const y = sigma ? luminances[i] : localMean(luminances, width, height, i);
    const s = sigma ? sigma[i] : estimate!(y);
    if (y - y !== 0 || s - s !== 0) continue;
    count += 1;
    const grain = visibleGrain(y, s) ** 2;
    const plain = visibleGrain(y, s, plainDisplay) ** 2;
    for (const sum of [sums[zoneOf(y)], sums[3]]) {
      sum.count += 1;
      sum.sigma += s * s;
      sum.log += Math.log(Math.max(LEAST_SIGMA, s));
      sum.grain += grain;
      sum.plain += plain;
    }
  }
  const [shadows, midtones, highlights, all] = sums.map(({ count: own, sigma: s, log, grain, plain }) => ({
    share: count ? own / count : 0,
    sigma: own ? Math.sqrt(s / own) : 0,
    typical: own && s > 0 ? Math.exp(log / own) : 0,
    grain: own ? Math.sqrt(grain / own) : 0,
    plain: own ? Math.sqrt(plain / own) : 0,
  }));
  return { isEstimated: sigma === null, zones: { shadows, midtones, highlights }, all };
}

/** Brightnesses told apart: one a stop, over so many stops below the top one. */
const STOPS = 24;
const TOP_STOP = 4;
/** Fewer pixels, or a smaller share of them, tell nothing of a brightness: what stands there may be one small light. */
const FEWEST = 64;
const LEAST_SHARE = 0.01;

const binOf = (mean: number): number =>
  Math.max(0, Math.min(STOPS, Math.round(Math.log2(Math.max(1e-12, mean)) - TOP_STOP + STOPS)));

/**
 * Of the pixels that noise is read from, every `noiseStep`th, those at and beside fireflies, 1 each: they are no grain, and are
 * counted by themselves. Others are left 0.
 */
export function besideFireflies(luminances: ArrayLike<number>, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  const step = noiseStep(width, height);
  for (let i = 0; i < out.length; i += step) out[i] = isByFirefly(luminances, width, height, i) ? 1 : 0;
  return out;
}

/**
 * @param skip pixels that are left out; those at and beside fireflies by default
 * @returns the standard deviation of noise that pixels of a local mean have
 */
export function noiseModel(
  plane: ArrayLike<number>,
  width: number,
  height: number,
  skip = besideFireflies(plane, width, height),
): (mean: number) => number {
  const inside = (i: number) => i % width > 0 && i % width < width - 1 && i >= width && i < width * (height - 1);
  const laplacian = (i: number) => {
    if (!inside(i)) return NaN;
    const corners = plane[i - width - 1] + plane[i - width + 1] + plane[i + width - 1] + plane[i + width + 1];
    const sides = plane[i - width] + plane[i + width] + plane[i - 1] + plane[i + 1];
    // Of independent noise of deviation σ this has the deviation 6σ.
    return (corners - 2 * sides + 4 * plane[i]) / 6;
  };
  return deviationModel(plane, width, height, skip, laplacian);
}

/**
 * Deviations by brightness, from some number of each pixel that has the deviation of its noise.
 * @param skip pixels that are left out. @param of NaN where there is none
 * @param by how a deviation is told: by the median of sizes, which half of the pixels may lead astray without harm, or by
 *   the root of the mean square, which is right for any distribution where all of them are noise
 */
export function deviationModel(
  plane: ArrayLike<number>,
  width: number,
  height: number,
  skip: ArrayLike<number>,
  of: (i: number) => number,
  by: 'median' | 'root mean square' = 'median',
): (mean: number) => number {
  const rest: number[][] = Array.from({ length: STOPS + 1 }, () => []);
  const step = noiseStep(width, height);
  for (let i = 0; i < width * height; i += step) {
    if (skip[i]) continue;
    const size = Math.abs(of(i));
    if (size - size === 0) rest[binOf(localMean(plane, width, height, i))].push(size);
  }
  // Of a pass, what is black in it does not count.
  const lit = rest.slice(1).reduce((sum, { length }) => sum + length, 0);
  const fewest = Math.max(FEWEST, LEAST_SHARE * lit);
  const deviation = by === 'median' ? (sizes: number[]) => 1.4826 * median(sizes) : rootMeanSquare;
  const known = rest.map((sizes) => (sizes.length < fewest ? NaN : deviation(sizes)));
  if (known.every(Number.isNaN)) {
    // Too few pixels to tell brightnesses apart: one deviation for all, or none where there is no pixel with neighbours.
    const all = rest.flat();
    const sigma = all.length > 0 ? deviation(all) : 0;
    return () => sigma;
  }
  const sigmas = known.map((value, at) => (Number.isNaN(value) ? nearest(known, at) : value));
  return (mean) => sigmas[binOf(mean)];
}

const rootMeanSquare = (values: number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);

/** Where a weight is taken, however clean the picture is; and as a share of the brightness. */
const LEAST_WEIGHED = 1e-4;
const WEIGHED_SHARE = 0.05;
/** Share of the values that are taken as they are: the few largest, at the rim of a small light, count no more than these. */
const TRUSTED = 0.98;

/**
 * What variances of pixels weigh as they are seen: as in visible grain, with shadows boosted or without it, whichever shows more.
 * @param seen luminance of the beauty. @param step every so many-th pixel is weighed
 * @returns a weight for each of those; NaN where the beauty is no number
 */
export function seenWeights(seen: ArrayLike<number>, step: number): Float64Array {
  const weights = new Float64Array(Math.ceil(seen.length / step));
  for (let k = 0; k < weights.length; k++) {
    const y = seen[k * step];
    const moved = Math.max(LEAST_WEIGHED, WEIGHED_SHARE * y);
    weights[k] = y - y === 0 ? Math.max(grainWeight(y, moved), grainWeight(y, moved, plainDisplay)) : NaN;
  }
  return weights;
}

/**
 * Variance of a pass as it is seen, a pixel: weighed at the brightness of the whole picture. Passes are ranked by it.
 * @param weights of every `noiseStep`th pixel, see `seenWeights`. @param error standard error of the pass; null: it is estimated
 */
export function seenVariance(
  plane: ArrayLike<number>,
  weights: Float64Array,
  error: ArrayLike<number> | null,
  width: number,
  height: number,
): number {
  const skip = error ? null : besideFireflies(plane, width, height);
  const model = skip && noiseModel(plane, width, height, skip);
  const step = noiseStep(width, height);
  const found = new Float64Array(weights.length);
  let count = 0;
  for (let i = 0; i < plane.length; i += step) {
    if (skip?.[i]) continue;
    const sigma = error ? error[i] : model!(localMean(plane, width, height, i));
    const weight = weights[i / step];
    if (sigma - sigma !== 0 || weight - weight !== 0) continue;
    found[count++] = weight * sigma ** 2;
  }
  if (!count) return 0;
  const sorted = found.subarray(0, count).sort();
  const cap = error ? Infinity : sorted[Math.floor(TRUSTED * (sorted.length - 1))];
  return sorted.reduce((sum, v) => sum + Math.min(v, cap), 0) / sorted.length;
}

/** What a pixel's noise is, of every pixel. */
export function noisePlane(plane: ArrayLike<number>, width: number, height: number): Float32Array {
  const model = noiseModel(plane, width, height);
  return Float32Array.from({ length: width * height }, (_, i) => model(localMean(plane, width, height, i)));
}

/** Mean of a pixel and the eight around it; at the edges of those there are. */
export function localMean(plane: ArrayLike<number>, width: number, height: number, i: number): number {
  const x = i % width;
  const up = i >= width ? -width : 0;
  const down = i < width * (height - 1) ? width : 0;
  const left = x > 0 ? -1 : 0;
  const right = x < width - 1 ? 1 : 0;
  const above = plane[i + up + left] + plane[i + up] + plane[i + up + right];
  const below = plane[i + down + left] + plane[i + down] + plane[i + down + right];
  return (above + plane[i + left] + plane[i] + plane[i + right] + below) / 9;
}

/** From the nearest brightness that is known: the variance of light that is found by chance goes with its mean. */
function nearest(known: number[], at: number): number {
  for (let step = 1; step < known.length; step++)
    for (const other of [at - step, at + step]) if (known[other] >= 0) return known[other] * 2 ** ((at - other) / 2);
  return 0;
}

function median(values: number[]): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[sorted.length >> 1];
}
