/**
 * A small paired render of a region before and after any change, for remedies and regions that no
 * cheaper model covers: brightness, cost and grain of one against the other.
 */
import { luminance } from '../data/colour.ts';
import { visibleGrain } from '../data/grain.ts';
import { standardError } from '../render/film/film.ts';
import { BEAUTY, MEAN_RAYS } from '../render/film/passes.ts';
import { GROUP } from '../render/film/random.ts';
import { renderPixels } from '../render/frame/render-tile.ts';
import type { CompiledScene, RenderSettings } from '../render/scene/scene.ts';
import { carriedGrain, stopsBetween } from './stops-between.ts';

export interface PairedSide {
  scene: CompiledScene;
  settings: RenderSettings;
  /** Samples per pixel of the real render. */
  samples: number;
}

/** What one side of a pair measured; comparable with another of the same pixels, groups and seed only. */
export interface PilotMeasure {
  light: number;
  rays: number;
  grainSquared: number;
  pixels: number;
  /** Rays the pilot itself traced. */
  spent: number;
}

/**
 * @param pixels full-frame pixel numbers, the same for both sides
 * @param mask per entry of `pixels`, whether its light counts for brightness
 * @param groups of 4 samples each, at least 2
 * @param seed must not be the trial's
 */
export function measurePilot(
  { scene, settings, samples }: PairedSide,
  pixels: ArrayLike<number>,
  mask: ArrayLike<number>,
  groups: number,
  seed: number,
): PilotMeasure {
  const film = renderPixels(scene, { ...settings, seed }, pixels, groups);
  const out = { light: 0, rays: 0, grainSquared: 0, pixels: pixels.length, spent: 0 };
  for (let i = 0; i < pixels.length; i++) {
    const o = i * film.width;
    const y = luminance(film.means[o], film.means[o + 1], film.means[o + 2]);
    // Adaptive sampling gives each pixel its own number, and no more than the sheet's.
    const own = settings.adaptive.on ? Math.min(samples, film.wanted[i] * GROUP) : samples;
    const scale = Math.sqrt((film.counts[i] * GROUP) / own);
    if (mask[i] > 0) out.light += y;
    out.rays += film.means[o + MEAN_RAYS] * own;
    out.spent += film.means[o + MEAN_RAYS] * film.counts[i] * GROUP;
    out.grainSquared += visibleGrain(y, standardError(film, i, BEAUTY) * scale) ** 2;
  }
  return out;
}

/**
 * Change from one measure to another: stops of brightness, rays as a ratio, and the grain of a picture of the same
 * settings as `before` and of grain `now` after it.
 */
export function comparePilots(
  before: PilotMeasure,
  after: PilotMeasure,
  now: number,
): { stops: number; cost: number; grainAfter: number } {
  const grain = ({ grainSquared, pixels }: PilotMeasure) => Math.sqrt(grainSquared / pixels);
  return {
    stops: stopsBetween(before.light, after.light),
    cost: after.rays / before.rays,
    grainAfter: carriedGrain(now, grain(before), grain(after)),
  };
}
