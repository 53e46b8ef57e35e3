/**
 * What any change of settings would do to a region: a paired pilot of the region with and without it, and
 * the grain of the present picture where there is one.
 */
import type { Effect } from '../contracts/finding.ts';
import { channel, type Picture, type Region } from '../data/picture.ts';
import type { Sheet } from '../document/schema.ts';
import { grainOf } from '../data/grain.ts';
import { cropPlane, luminancePlane } from '../picture/measured.ts';
import { settingsOf, type CompiledScene } from '../render/scene.ts';
import { comparePilots, measurePilot } from './paired-pilot.ts';
import { pilotPixels, pilotStride } from './pilot-pixels.ts';

const GROUPS = 4;

export interface ChangeSide {
  scene: CompiledScene;
  sheet: Sheet;
}

export interface Change {
  before: ChangeSide;
  after: ChangeSide;
  /** Full-frame pixels inside the sheet's frame. */
  region: Region;
  /** A byte a pixel of the full frame: whose brightness counts; null for all. */
  mask: Uint8Array | null;
  /** Beauty and its error over the full frame, as rendered with `before`. */
  picture: Picture | null;
  /** Never the trial's. */
  seed: number;
}

/** Spends at most about a quarter of the rays of a trial of the same region. */
export function predictChange({ before, after, region, mask, picture, seed }: Change): Effect {
  const fewest = Math.min(before.sheet.samples, after.sheet.samples);
  const pixels = pilotPixels(region, before.sheet.width, pilotStride(fewest, GROUPS, 2));
  const counted = Uint8Array.from(pixels, (p) => (mask ? mask[p] : 1));
  const measure = ({ scene, sheet }: ChangeSide) =>
    measurePilot({ scene, settings: settingsOf(sheet), samples: sheet.samples }, pixels, counted, GROUPS, seed);
  const [a, b] = [measure(before), measure(after)];
  const { stops, cost, grain } = comparePilots(a, b);
  const grainBefore = picture
    ? grainOf(
        cropPlane(picture, luminancePlane(picture, 'beauty'), region),
        cropPlane(picture, channel(picture, 'error.beauty'), region),
      )
    : Math.sqrt(a.grainSquared / pixels.length);
  return { stops, cost, grainBefore, grainAfter: grainBefore * grain };
}
