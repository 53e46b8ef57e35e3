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
import { recordedTracer } from '../render/path/tracer.ts';
import type { EventCounts, Recorder } from '../render/path/recorder.ts';
import { GROUP } from '../render/film/random.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';

export type Limits = Sheet['limits'];

/** As far as a document can go. */
export const LIFTED: Limits = { diffuse: 64, specular: 64, transmission: 64, volume: 64, alpha: 256, overall: 200 };

/** A part of the light: what came without a reflection, and what came by one or more. */
export type LightPart = 'unmirrored' | 'mirrored';

export interface LimitPilot {
  /**
   * Luminance that the masked pixels get at these limits, summed; comparable only with itself.
   * @param part of the light; all of it by default
   */
  energy(limits: Limits, part?: LightPart): number;
  /** Rays traced at these limits, summed over all pixels of the pilot. */
  rays(limits: Limits): number;
  /** Rays the pilot itself traced. */
  spent: number;
}

/** Sums by event counts; a key holds the counts of all kinds, see `keyOf`. */
class Tally implements Recorder {
  readonly energy = new Map<number, number>();
  readonly count = new Map<number, number>();
  /** Rays that `count` has twice where both of two events are allowed. */
  readonly both = new Map<number, number>();
  masked = true;

  contribution(_stage: number, counts: EventCounts, value: number): void {
    if (this.masked) add(this.energy, keyOf(counts, 0, 0), value);
  }

  ray(_stage: number, counts: EventCounts): void {
    add(this.count, keyOf(counts, 0, 0), 1);
  }

  /** One ray for either of two events: one for each, less one where both are allowed. That is one event in all. */
  sharedRay(_stage: number, counts: EventCounts): void {
    add(this.count, keyOf(counts, 1, 0), 1);
    add(this.count, keyOf(counts, 0, 1), 1);
    add(this.both, keyOf(counts, 1, 1), 1);
  }

  event(): void {
    // Only what is found and what it costs counts here.
  }
}

const add = (sums: Map<number, number>, key: number, value: number) => sums.set(key, (sums.get(key) ?? 0) + value);

/** Counts as digits of base 512, alpha first: 45 bits, which a double holds. */
const BASE = 512;
const keyOf = (c: EventCounts, diffuse: number, specular: number): number =>
  (((c.alpha * BASE + c.volume) * BASE + c.diffuse + diffuse) * BASE + c.specular + specular) * BASE + c.transmission;

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
  const integrator = recordedTracer(scene, { ...settings, limits: LIFTED }, tally);
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
  /** @param spare by how many events the counts of a key exceed those of the path */
  const read = (sums: Map<number, number>, spare: number) => {
    const entries = [...sums].map(([key, value]) => {
      const digit = (place: number) => Math.floor(key / BASE ** place) % BASE;
      return { t: digit(0), s: digit(1), d: digit(2), v: digit(3), a: digit(4), value };
    });
    return (limits: Limits, part?: LightPart) => {
      let sum = 0;
      for (const { t, s, d, v, a, value } of entries)
        if (
          (part === undefined || (part === 'mirrored') === s > 0) &&
          d <= limits.diffuse &&
          s <= limits.specular &&
          t <= limits.transmission &&
          v <= limits.volume &&
          a <= limits.alpha &&
          d + s + t + v - spare <= limits.overall
        )
          sum += value;
      return sum;
    };
  };
  const single = read(tally.count, 0);
  const twice = read(tally.both, 1);
  const rays = (limits: Limits) => single(limits) - twice(limits);
  return { energy: read(tally.energy, 0), rays, spent: rays(LIFTED) };
}
