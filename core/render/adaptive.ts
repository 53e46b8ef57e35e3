/**
 * How many groups a pixel needs, told by groups of its own that stay out of the picture: a pixel that judged by
 * the very samples it shows would stop when they happen to be dark. Source: Kirk & Arvo, "Unbiased Sampling
 * Techniques for Image Synthesis", 1991.
 */
import { luminance } from '../data/colour.ts';
import { visibleGrain } from '../data/grain.ts';
import type { Integrator } from './integrator.ts';
import { MEAN_RAYS } from './passes.ts';
import { GROUP } from './random.ts';
import type { RenderSettings } from './scene.ts';

/** Number of the first deciding group: far above those of pictures. */
const FIRST = 0x100000;
/** The fewest groups that tell a spread. */
const LEAST_PILOT = 4;
const MOST = 16384;

/** @returns groups that bring the pixel's visible grain to the sheet's target, and the rays that telling took */
export function groupsNeeded(
  integrator: Integrator,
  settings: RenderSettings,
  x: number,
  y: number,
): { groups: number; rays: number } {
  const { random, collector } = integrator;
  const { sums } = collector;
  const { target, least } = settings.adaptive;
  const pilot = Math.max(LEAST_PILOT, least / GROUP / 2);
  let mean = 0;
  let squares = 0;
  let rays = 0;
  for (let group = 0; group < pilot; group++) {
    random.start(x, y, FIRST + group, settings.seed);
    collector.clear();
    for (let s = 0; s < GROUP; s++) {
      random.sample = s;
      integrator.sample(x, y);
    }
    rays += sums[MEAN_RAYS];
    const value = luminance(sums[0], sums[1], sums[2]) / GROUP;
    const before = mean;
    mean += (value - mean) / (group + 1);
    squares += (value - before) * (value - mean);
  }
  const groups = groupsFor(mean, Math.sqrt(squares / (pilot - 1)), target);
  return { groups: Math.max(least / GROUP, groups), rays };
}

/** Groups after which an error of `spread`/√n makes no more than `target` display steps after the lift. */
function groupsFor(mean: number, spread: number, target: number): number {
  let high = 1;
  while (high < MOST && visibleGrain(mean, spread / Math.sqrt(high)) > target) high *= 2;
  let low = high / 2;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (visibleGrain(mean, spread / Math.sqrt(middle)) > target) low = middle;
    else high = middle;
  }
  return high;
}
