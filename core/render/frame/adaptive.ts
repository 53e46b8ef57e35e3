/**
 * How many groups a pixel needs, told by groups of its own that stay out of the picture: a pixel that judged by
 * the very samples it shows would stop when they happen to be dark. Source: Kirk & Arvo, "Unbiased Sampling
 * Techniques for Image Synthesis", 1991.
 */
import { luminance } from '../../data/colour.ts';
import { plainDisplay, visibleGrain } from '../../data/grain.ts';
import { MEAN_RAYS } from '../film/passes.ts';
import { GROUP } from '../film/random.ts';
import type { GroupTracer } from '../scene/scene-kernel.ts';
import type { RenderSettings } from '../scene/scene.ts';

/** Number of the first deciding group: far above those of pictures. */
const FIRST = 0x100000;
/** The fewest groups that tell a spread. */
const LEAST_PILOT = 4;
/** Share of the most that a pixel may get, which pixels need on average. */
const USUAL = 1 / 8;
const MOST = 16384;

type Adaptive = Pick<RenderSettings, 'adaptive' | 'samples'>;

/** Of n groups that decide about N, n + N (n − 1)/(n − 3) in all are fewest at n = 3 + √2N: see `allowance`. */
const decidingGroups = ({ adaptive, samples }: Adaptive): number =>
  Math.ceil(Math.max(LEAST_PILOT, adaptive.least / GROUP / 2, 3 + Math.sqrt((2 * USUAL * samples) / GROUP)));

/** Samples of each pixel that decide how many it needs and stay out of the picture. */
export const decidingSamples = (settings: Adaptive): number =>
  settings.adaptive.on ? GROUP * decidingGroups(settings) : 0;

/**
 * A variance told by n groups is too low as often as too high, but a pixel that got too few samples is noisier by more
 * than one with too many is cleaner: on average over pixels 1/s² is (n − 1)/(n − 3) times 1/σ². Source: mean of the
 * inverse chi-squared distribution.
 */
function allowance(settings: Adaptive): number {
  const n = decidingGroups(settings);
  return (n - 1) / (n - 3);
}

/** @returns groups that bring the pixel's visible grain to the sheet's target, and the rays that telling took */
export function groupsNeeded(
  tracer: GroupTracer,
  settings: RenderSettings,
  x: number,
  y: number,
): { groups: number; rays: number } {
  const { sums } = tracer;
  const { target, least } = settings.adaptive;
  const pilot = decidingGroups(settings);
  let mean = 0;
  let squares = 0;
  let rays = 0;
  for (let group = 0; group < pilot; group++) {
    tracer.group(x, y, FIRST + group);
    rays += sums[MEAN_RAYS];
    const value = luminance(sums[0], sums[1], sums[2]) / GROUP;
    const before = mean;
    mean += (value - mean) / (group + 1);
    squares += (value - before) * (value - mean);
  }
  const groups = groupsFor(mean, Math.sqrt((allowance(settings) * squares) / (pilot - 1)), target);
  return { groups: Math.max(least / GROUP, groups), rays };
}

/** Groups after which an error of `spread`/√n makes no more than `target` display steps. */
function groupsFor(mean: number, spread: number, target: number): number {
  let high = 1;
  while (high < MOST && seenGrain(mean, spread / Math.sqrt(high)) > target) high *= 2;
  let low = high / 2;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (seenGrain(mean, spread / Math.sqrt(middle)) > target) low = middle;
    else high = middle;
  }
  return high;
}

/** With shadows boosted or as the picture is, whichever shows more: the boost blows out bright pixels, which are seen without it. */
const seenGrain = (mean: number, error: number): number =>
  Math.max(visibleGrain(mean, error), visibleGrain(mean, error, plainDisplay));
