/**
 * A pilot that tells what samples of each kind are worth: the same pixels, by the same camera rays, with the sheet's own counts
 * and with other counts, each way rendered and its variance and rays measured. What kinds have to do with each other (light that
 * both find, a light sample behind every diffuse one) is in what is measured. Source of pairing: Law & Kelton, Simulation Modeling and Analysis, "common random numbers".
 *
 * @example
 * const measure = samplePilot(scene, settings, pixels, weights, 8, pilotSeed(1));
 * measure({ ...sheet.extraSamples, light: 4 }).variance / measure(sheet.extraSamples).variance; // what four light samples leave
 */
import type { Sheet } from '../document/schema.ts';
import { LIGHT_PASS_COUNT, MEAN_RAYS } from '../render/film/passes.ts';
import { GROUP } from '../render/film/random.ts';
import { renderPixels } from '../render/frame/render-tile.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';

export type ExtraSamples = Sheet['extraSamples'];

export interface Measured {
  /** Weighted variance of one group's mean luminance, mean over the pixels. */
  variance: number;
  /** Of one group of 4 samples, mean over the pixels. */
  rays: number;
}

/** Renders with other counts of samples; what was measured once is known. */
export type MeasureSamples = (extra: ExtraSamples) => Measured;

/**
 * @param pixels full-frame pixel numbers to trace. @param weights of each pixel's variance
 * @param groups of 4 samples, at least 2. @param seed no render's or trial's
 */
export function samplePilot(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  weights: ArrayLike<number>,
  groups: number,
  seed: number,
): MeasureSamples {
  const known = new Map<string, Measured>();
  const evenly = { ...settings, seed, adaptive: { ...settings.adaptive, on: false } };
  return (extra) => {
    const key = keyOf(extra);
    const before = known.get(key);
    if (before) return before;
    const { moments, means, width } = renderPixels(scene, { ...evenly, extraSamples: extra }, pixels, groups);
    const sum = { variance: 0, rays: 0 };
    for (let i = 0; i < pixels.length; i++) {
      sum.variance += (weights[i] * moments[i * LIGHT_PASS_COUNT]) / (groups - 1);
      sum.rays += means[i * width + MEAN_RAYS] * GROUP;
    }
    const measured = { variance: sum.variance / pixels.length, rays: sum.rays / pixels.length };
    known.set(key, measured);
    return measured;
  };
}

/** Tells counts apart. */
export const keyOf = ({ light, diffuse, specular, transmission, volume }: ExtraSamples): string =>
  [light, diffuse, specular, transmission, volume].join(' ');
