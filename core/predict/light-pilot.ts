/**
 * A pilot that parts the variance of pixels by the light it came from. Each group is traced twice with the same camera rays and
 * other numbers for everything behind them; half the squared difference of its two results is its spread within a camera
 * sample. Source: Cochran, Sampling Techniques, 1977, chapter 10 (two-stage sampling).
 */
import { GROUP } from '../render/film/random.ts';
import type { EventCounts, Recorder } from '../render/path/recorder.ts';
import { recordedTracer } from '../render/path/tracer.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';

class LightSums implements Recorder {
  readonly byLight: Float64Array;

  constructor(private readonly lights: number) {
    this.byLight = new Float64Array(lights + 1);
  }

  contribution(_stage: number, _counts: EventCounts, value: number, light: number): void {
    this.byLight[light < 0 ? this.lights : light] += value;
  }

  ray(): void {
    // Only what is found counts here.
  }

  sharedRay(): void {
    // As above.
  }

  event(): void {
    // As above.
  }
}

/**
 * @param pixels full-frame pixel numbers to trace
 * @param weights of each pixel's variance
 * @returns weighted variance of group means within camera samples by light, one for each row of the table and one of no light
 */
export function lightPilot(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  weights: ArrayLike<number>,
  groups: number,
  seed: number,
): Float64Array {
  const sums = new LightSums(scene.lightCount);
  const integrator = recordedTracer(scene, settings, sums);
  const { random } = integrator;
  const spread = new Float64Array(scene.lightCount + 1);
  const first = new Float64Array(scene.lightCount + 1);
  const each = 2 * GROUP * GROUP * pixels.length * groups;
  for (let i = 0; i < pixels.length; i++) {
    const x = pixels[i] % settings.width;
    const y = Math.floor(pixels[i] / settings.width);
    for (let group = 0; group < groups; group++) {
      for (let replica = 0; replica < 2; replica++) {
        random.start(x, y, group, seed);
        integrator.replica = replica;
        sums.byLight.fill(0);
        for (let s = 0; s < GROUP; s++) {
          random.sample = s;
          integrator.sample(x, y);
        }
        if (replica === 0) first.set(sums.byLight);
      }
      for (let l = 0; l < spread.length; l++) spread[l] += (weights[i] * (first[l] - sums.byLight[l]) ** 2) / each;
    }
  }
  return spread;
}
