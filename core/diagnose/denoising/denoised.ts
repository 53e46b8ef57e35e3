/**
 * Would this picture denoise? A stand-in denoiser is let loose on its noisiest window: how much grain is left, what
 * becomes of a firefly, and, where the frames beside are there, how much the result still changes from frame to frame. A
 * still that is clean may boil as a sequence.
 */
import { grainOf } from '../../data/grain.ts';
import { denoise } from '../../picture/denoise.ts';
import { findFireflies } from '../../picture/fireflies.ts';
import { cropPlane, strongestWindow } from '../../picture/measured.ts';
import { noiseModel, noiseOf, noisePlane } from '../../picture/noise.ts';
import { flickerOf } from '../../picture/sequence/flicker.ts';
import type { Region } from '../../data/picture.ts';
import type { Case } from '../family.ts';
import type { PictureInput } from '../picture-input.ts';

/** Side of the window, pixels. */
const WINDOW = 160;
/** Display steps with shadows boosted that are hard to see in a still; what boils is seen from half of that on. */
const CLEAN = 2;
const BOILS = 1;

export interface DenoisedCase extends Case {
  /** Noise of the window before and after, display steps. */
  before: number;
  after: number;
  /** Share of a firefly's light beyond its surroundings that is left; null without any. */
  fireflyLeft: number | null;
  /** Steps that change from frame to frame; null without frames beside. */
  boiling: number | null;
  isGuided: boolean;
  /** Whether it is clean as a still, and calm in motion; null: not known. */
  still: boolean;
  sequence: boolean | null;
}

/** Share of a firefly's light from which on it is seen. */
export const STAYS = 0.05;

export function casesOf(picture: PictureInput): DenoisedCase[] {
  const { width, height, luminance } = picture;
  const sigma = picture.sigma ?? noisePlane(luminance, width, height);
  const flies = findFireflies({ luminance, width, height, albedo: picture.albedo });
  const frame = { x: 0, y: 0, width, height, channels: new Map<string, Float32Array>() };
  // Fireflies draw the window, and noise where there are none.
  const weight = Float32Array.from(luminance, (_, i) => flies.mask[i] * 1e6 + (sigma[i] > 0 ? Math.min(1, sigma[i]) : 0)); // prettier-ignore
  const region: Region = strongestWindow(frame, weight, WINDOW, WINDOW);
  const cut = (plane: ArrayLike<number>) => cropPlane(frame, Float32Array.from(plane), region);
  const noisy = cut(luminance);
  const its = cut(sigma);
  const { all } = noiseOf(noisy, its, region.width, region.height);
  if (!(all.sigma > 0) || region.width * region.height < 64) return [];
  const guides = picture.albedo ? [cut(picture.albedo)] : [];
  const clean = denoise({ luminance: noisy, sigma: its, width: region.width, height: region.height, guides });
  const model = noiseModel(clean, region.width, region.height);
  const after = grainOf(
    clean,
    Float32Array.from(clean, (y) => model(y)),
  );
  const left = fireflyLeft(cut(flies.mask), noisy, clean, region.width);
  const boil = boiling(picture, its, guides, cut, clean, region);
  const still = after <= CLEAN && (left === null || left < STAYS);
  const sequence = boil === null ? null : boil <= BOILS;
  return [
    {
      key: 'denoising',
      severity: still && sequence !== false ? 'note' : 'caution',
      region,
      mask: null,
      passes: [],
      before: grainOf(noisy, its),
      after,
      fireflyLeft: left,
      boiling: boil,
      isGuided: guides.length > 0,
      still,
      sequence,
    },
  ];
}

/** Mean share of what fireflies have beyond the median around them that is still there; null without any. */
function fireflyLeft(mask: Float32Array, noisy: Float32Array, clean: Float32Array, width: number): number | null {
  let [sum, count] = [0, 0];
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] === 0) continue;
    const around = [-1, 1, -width, width].map((d) => noisy[i + d]).filter((v) => v !== undefined).sort((a, b) => a - b); // prettier-ignore
    const usual = around[around.length >> 1] ?? 0;
    if (noisy[i] <= usual) continue;
    sum += Math.max(0, clean[i] - usual) / (noisy[i] - usual);
    count += 1;
  }
  return count > 0 ? sum / count : null;
}

/** Visible change of what stands still between the denoised frame and the one beside it, display steps; null without one. */
function boiling(
  { beside, width, height }: PictureInput,
  sigma: Float32Array,
  guides: Float32Array[],
  cut: (plane: ArrayLike<number>) => Float32Array,
  clean: Float32Array,
  window: { width: number; height: number },
): number | null {
  if (beside.length === 0) return null;
  const other = cut(noisePlane(beside[0], width, height));
  const frame = denoise({
    luminance: cut(beside[0]),
    sigma: other,
    width: window.width,
    height: window.height,
    guides,
  });
  return flickerOf(clean, frame, sigma, window.width, window.height, null).visible;
}
