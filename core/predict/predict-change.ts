/**
 * What any change of a scene or its settings would do to a region: the region rendered small with and without it, on
 * the same random numbers, and the grain of the present picture where there is one.
 */
import type { Effect } from '../contracts/finding.ts';
import { channel, type Picture, type Region } from '../data/picture.ts';
import { grainOf } from '../data/grain.ts';
import { cropPlane, luminancePlane } from '../picture/measured.ts';
import { EFFECT_PASSES, effectOf } from './effect-of.ts';
import { carriedGrain } from './stops-between.ts';
import { planSmall, renderSmall, type ChangeSide } from './small-render.ts';

export interface Change {
  before: ChangeSide;
  after: ChangeSide;
  /** Full-frame pixels inside the sheet's frame. */
  region: Region;
  /** A byte a pixel of the full frame: whose brightness counts; null for all. */
  mask: Uint8Array | null;
  /** Beauty, its error and the objects over the full frame, as rendered with `before`. */
  picture: Picture | null;
  /** The region was chosen for what chance brought there: its grain in the picture is more than the next render's. */
  isSelected?: boolean;
  /** What objects are called, by number from 0. */
  names: string[];
  /** Never the trial's. */
  seed: number;
}

/** Where many changes are held against each other, each gets a share of the rays. */
const MANY = 2;

/** Spends at most about a quarter of the rays of a trial of the same region. */
export const predictChange = (change: Change): Effect => predictChanges(change, [change.after])[0];

/** Several changes of one thing, which share what is rendered without them. */
export function predictChanges(
  { before, region, mask, picture, isSelected, names, seed }: Omit<Change, 'after'>,
  afters: ChangeSide[],
  passes: string[] = [],
  see: (picture: Picture, k: number) => void = () => {},
): Effect[] {
  const fewest = Math.min(...[before, ...afters].map(({ sheet }) => sheet.samples));
  const plan = planSmall(region, before.sheet.width, fewest, afters.length > 1 ? MANY : 1);
  const counted = mask && Uint8Array.from(plan.pixels, (p) => mask[p]);
  const all = [...new Set([...EFFECT_PASSES, ...passes])];
  const film = picture?.channels.has('object')
    ? { here: gather(picture, plan.pixels), region: gather(picture, pixelsOf(region, picture.width)) }
    : null;
  const first = renderSmall(before, plan, all, seed);
  const grainBefore =
    picture && !isSelected
      ? grainOf(
          cropPlane(picture, luminancePlane(picture, 'beauty'), region),
          cropPlane(picture, channel(picture, 'error.beauty'), region),
        )
      : null;
  return afters.map((after, k) => {
    const { picture: second, samplesFor } = renderSmall(after, plan, all, seed);
    see(second, k);
    const told = effectOf(first.picture, second, counted, names, [0, 0], film);
    const { before: n, after: m } = told.fireflies!;
    // Each pixel stands for others, and each hit of the real render's further samples is a further firefly.
    const fireflies = {
      before: Math.round(n * plan.standsFor * first.samplesFor),
      after: Math.round(m * plan.standsFor * samplesFor),
    };
    if (grainBefore === null) return { ...told, fireflies };
    const grainAfter = carriedGrain(grainBefore, told.grainBefore, told.grainAfter);
    return { ...told, fireflies, grainBefore, grainAfter };
  });
}

const pixelsOf = ({ x, y, width, height }: Region, frameWidth: number): Uint32Array =>
  Uint32Array.from({ length: width * height }, (_, i) => (y + Math.floor(i / width)) * frameWidth + x + (i % width));

/** Pixels as the render has them: other random numbers, so that what few pixels miss by chance is told. */
function gather(picture: Picture, pixels: Uint32Array): Picture {
  const names = ['beauty.R', 'beauty.G', 'beauty.B', 'object'];
  const channels = new Map(names.map((name) => [name, Float32Array.from(pixels, (i) => channel(picture, name)[i])]));
  return { x: 0, y: 0, width: pixels.length, height: 1, channels };
}
