/**
 * How a picture's noise was read, from the surest way there is: its error pass, two renders of half its samples, frames
 * beside it, or itself. A way is told with what it cannot tell apart.
 *
 * Two halves differ by noise alone: (a − b)/2 has the variance of their mean, whatever is in the picture. Of frames that
 * follow each other, f − (p + n)/2 has 3/2 of a frame's variance where nothing moves; half of the pixels of a brightness
 * may move before the median (Rousseeuw & Croux 1993) is led astray. What a picture tells by itself and what its
 * neighbours tell are both too much where there is texture or motion, so that the lesser is taken.
 *
 * @example
 * const { model, method, told } = readNoise({ luminance, width, height, sigma: null, halves: [a, b], beside: [], guides: [] });
 */
import { guideEdges } from './guide-edges.ts';
import { besideFireflies, deviationModel, noiseModel, noiseStep, localMean } from './noise.ts';

export type NoiseMethod = 'error pass' | 'half-sample renders' | 'neighbouring frames' | 'picture';

export interface NoiseSources {
  /** Of the picture that is judged; where there are halves, their mean. */
  luminance: ArrayLike<number>;
  width: number;
  height: number;
  sigma: ArrayLike<number> | null;
  halves: [ArrayLike<number>, ArrayLike<number>] | null;
  /** Frames before and after. */
  beside: ArrayLike<number>[];
  /** Passes without noise. */
  guides: ArrayLike<number>[];
}

export interface NoiseReading {
  method: NoiseMethod;
  /** Standard deviation of pixels of a local mean; null where an error pass says it pixel by pixel. */
  model: ((mean: number) => number) | null;
  /** How sure it is, and what it cannot tell apart. */
  told: string;
}

export function readNoise(from: NoiseSources): NoiseReading {
  if (from.sigma) return { method: 'error pass', model: null, told: 'as the renderer states it' };
  if (from.halves) return byHalves(from, from.halves);
  const own = byItself(from);
  return from.beside.length > 0 ? byNeighbours(from, own) : own;
}

function byHalves(
  { luminance, width, height }: NoiseSources,
  [a, b]: [ArrayLike<number>, ArrayLike<number>],
): NoiseReading {
  const difference = Float32Array.from({ length: width * height }, (_, i) => (a[i] - b[i]) / 2);
  const skip = besideFireflies(luminance, width, height);
  const model = deviationModel(luminance, width, height, skip, (i) => difference[i], 'root mean square');
  return { method: 'half-sample renders', model, told: 'measured: two renders of one picture differ by noise alone' };
}

function byItself({ luminance, width, height, guides }: NoiseSources): NoiseReading {
  const skip = besideFireflies(luminance, width, height);
  const edges = guideEdges(guides, width, height);
  edges?.forEach((edge, i) => (skip[i] |= edge));
  const told = edges
    ? 'estimated where albedo, normal and depth are smooth'
    : 'estimated: texture as fine as a pixel is taken for noise';
  return { method: 'picture', model: noiseModel(luminance, width, height, skip), told };
}

/** Variance of a frame less the mean of n others, in those of one frame. */
const spread = (n: number): number => Math.sqrt(1 + 1 / n);
/** The ways agree within so much. */
const AGREE = 1.25;

function byNeighbours({ luminance, width, height, beside }: NoiseSources, own: NoiseReading): NoiseReading {
  const skip = besideFireflies(luminance, width, height);
  const others = (i: number) => beside.reduce((sum, frame) => sum + frame[i], 0) / beside.length;
  const across = deviationModel(luminance, width, height, skip, (i) => (luminance[i] - others(i)) / spread(beside.length)); // prettier-ignore
  const inside = own.model!;
  const model = (mean: number) => Math.min(across(mean), inside(mean));
  // Judged at the brightnesses that there are.
  let [frames, still] = [0, 0];
  for (let i = 0; i < width * height; i += noiseStep(width, height)) {
    const mean = localMean(luminance, width, height, i);
    if (mean - mean !== 0) continue;
    frames += across(mean) ** 2;
    still += inside(mean) ** 2;
  }
  const ratio = Math.sqrt(frames / still);
  const told =
    ratio > AGREE
      ? `${own.told}; the frames beside it differ by more, as they do in motion`
      : ratio < 1 / AGREE
        ? 'estimated by the frames beside it: what differs within the picture and not between them is texture, or noise that stands still'
        : 'estimated by the frames beside it and by itself, which agree';
  return { method: ratio > AGREE ? 'picture' : 'neighbouring frames', model, told };
}
