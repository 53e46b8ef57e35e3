/**
 * One pilot with all limits lifted, from which brightness and cost at any limits are read off: for
 * each contribution and each ray it keeps how many events of each kind were needed. Roulette depends on
 * a path's weight only, so at any limits the same paths would have been traced.
 *
 * @example
 * const pilot = runLimitPilot(scene, settings, pixels, mask, 2, seed);
 * pilot.energy({ diffuse: 4, specular: 2, transmission: 20, overall: 21 }) / pilot.energy(LIFTED);
 */
import type { Sheet } from '../document/schema.ts';
import { Integrator } from '../render/integrator.ts';
import type { Recorder } from '../render/recorder.ts';
import { GROUP } from '../render/random.ts';
import type { CompiledScene, RenderSettings } from '../render/scene.ts';

export type Limits = Sheet['limits'];

/** As far as a document can go. */
export const LIFTED: Limits = { diffuse: 64, specular: 64, transmission: 64, overall: 200 };

const SIDE = 65;

export interface LimitPilot {
  /** Luminance that the masked pixels get at these limits, summed; comparable only with itself. */
  energy(limits: Limits): number;
  /** Rays traced at these limits, summed over all pixels of the pilot. */
  rays(limits: Limits): number;
  /** Rays the pilot itself traced. */
  spent: number;
}

/** Sums by event counts, in a dense cube; sparse lists are made of it to read from. */
class Tally implements Recorder {
  readonly energy = new Float64Array(SIDE ** 3);
  readonly count = new Float64Array(SIDE ** 3);
  /** Rays that `count` has twice where both of two events are allowed. */
  readonly both = new Float64Array(SIDE ** 3);
  masked = true;

  contribution(_stage: number, diffuse: number, specular: number, transmission: number, value: number): void {
    if (this.masked) this.energy[cell(diffuse, specular, transmission)] += value;
  }

  ray(_stage: number, diffuse: number, specular: number, transmission: number): void {
    this.count[cell(diffuse, specular, transmission)]++;
  }

  /** One ray for either of two events: one for each, less one where both are allowed. That is one event in all. */
  sharedRay(_stage: number, diffuse: number, specular: number, transmission: number): void {
    this.count[cell(diffuse + 1, specular, transmission)]++;
    this.count[cell(diffuse, specular + 1, transmission)]++;
    this.both[cell(diffuse + 1, specular + 1, transmission)]++;
  }
}

const cell = (d: number, s: number, t: number) =>
  (Math.min(d, SIDE - 1) * SIDE + Math.min(s, SIDE - 1)) * SIDE + Math.min(t, SIDE - 1);

/**
 * @param pixels full-frame pixel numbers (y × width + x) to trace
 * @param mask per entry of `pixels`, whether its light counts as energy
 * @param groups of 4 samples each
 * @param seed must not be the trial's
 */
export function runLimitPilot(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  mask: ArrayLike<number>,
  groups: number,
  seed: number,
): LimitPilot {
  const tally = new Tally();
  const integrator = new Integrator(scene, { ...settings, limits: LIFTED }, tally);
  const { random } = integrator;
  for (let i = 0; i < pixels.length; i++) {
    const x = pixels[i] % settings.width;
    const y = Math.floor(pixels[i] / settings.width);
    tally.masked = mask[i] > 0;
    for (let group = 0; group < groups; group++) {
      random.start(x, y, group, seed);
      for (let s = 0; s < GROUP; s++) {
        random.sample = s;
        integrator.sample(x, y);
      }
    }
  }
  /** @param spare by how many events the counts of a cell exceed those of the path */
  const read = (cube: Float64Array, spare: number) => {
    const used = [...cube.keys()].filter((k) => cube[k] !== 0);
    return (limits: Limits) => {
      let sum = 0;
      for (const k of used) {
        const t = k % SIDE;
        const s = Math.floor(k / SIDE) % SIDE;
        const d = Math.floor(k / SIDE / SIDE);
        if (
          d <= limits.diffuse &&
          s <= limits.specular &&
          t <= limits.transmission &&
          d + s + t - spare <= limits.overall
        )
          sum += cube[k];
      }
      return sum;
    };
  };
  const single = read(tally.count, 0);
  const twice = read(tally.both, 1);
  const rays = (limits: Limits) => single(limits) - twice(limits);
  return { energy: read(tally.energy, 0), rays, spent: rays(LIFTED) };
}
