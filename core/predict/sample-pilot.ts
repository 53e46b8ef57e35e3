/**
 * A pilot that parts the variance of a pixel by what would cure it: more camera samples, or more
 * samples of one kind at the first hit. Each group is traced twice with the same camera rays and other
 * numbers for everything behind them; half the squared difference of a stage's two results is its spread
 * within a camera sample. Source: Cochran, Sampling Techniques, 1977, chapter 10 (two-stage sampling).
 */
import { recordedTracer } from '../render/path/tracer.ts';
import { GROUP } from '../render/film/random.ts';
import { STAGES, type EventCounts, type Recorder } from '../render/path/recorder.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';

export interface SamplePilot {
  /** Weighted covariance of group means within camera samples, stage × stage, per pixel. */
  spread: Float64Array;
  /** Weighted variance of group means within camera samples, by light, per pixel; the last is of no light. */
  byLight: Float64Array;
  /** Rays per group of 4 samples, by stage, per pixel. */
  rays: Float64Array;
  /** Rays the pilot itself traced. */
  spent: number;
}

const SINGLE = { light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1, occlusion: 1 };

class StageSums implements Recorder {
  readonly values = new Float64Array(STAGES);
  readonly counts = new Float64Array(STAGES);
  readonly byLight: Float64Array;

  constructor(private readonly lights: number) {
    this.byLight = new Float64Array(lights + 1);
  }

  contribution(stage: number, _counts: EventCounts, value: number, light: number): void {
    this.values[stage] += value;
    this.byLight[light < 0 ? this.lights : light] += value;
  }

  ray(stage: number): void {
    this.counts[stage]++;
  }

  sharedRay(stage: number): void {
    this.counts[stage]++;
  }

  event(): void {
    // Only what is found and what it costs counts here.
  }
}

/**
 * @param pixels full-frame pixel numbers to trace
 * @param weights of each pixel's variance
 * @param settings taken with one sample of each kind, whatever they say
 */
export function runSamplePilot(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  weights: ArrayLike<number>,
  groups: number,
  seed: number,
): SamplePilot {
  const sums = new StageSums(scene.lightCount);
  const single = { ...settings, extraSamples: SINGLE };
  const integrator = recordedTracer(scene, single, sums);
  const { random } = integrator;
  const spread = new Float64Array(STAGES * STAGES);
  const first = new Float64Array(STAGES);
  const byLight = new Float64Array(scene.lightCount + 1);
  const firstByLight = new Float64Array(scene.lightCount + 1);
  const n = pixels.length * groups;
  for (let i = 0; i < pixels.length; i++) {
    const x = pixels[i] % settings.width;
    const y = Math.floor(pixels[i] / settings.width);
    for (let group = 0; group < groups; group++) {
      for (let replica = 0; replica < 2; replica++) {
        random.start(x, y, group, seed);
        integrator.replica = replica;
        sums.values.fill(0);
        sums.byLight.fill(0);
        for (let s = 0; s < GROUP; s++) {
          random.sample = s;
          integrator.sample(x, y);
        }
        if (replica === 0) {
          first.set(sums.values);
          firstByLight.set(sums.byLight);
        }
      }
      for (let l = 0; l < byLight.length; l++)
        byLight[l] += (weights[i] * (firstByLight[l] - sums.byLight[l]) ** 2) / (2 * GROUP * GROUP * n);
      for (let a = 0; a < STAGES; a++)
        for (let b = 0; b < STAGES; b++)
          spread[a * STAGES + b] +=
            (weights[i] * (first[a] - sums.values[a]) * (first[b] - sums.values[b])) / (2 * GROUP * GROUP * n);
    }
  }
  const spent = sums.counts.reduce((a, b) => a + b, 0);
  return { spread, byLight, rays: sums.counts.map((c) => c / (2 * n)), spent };
}
