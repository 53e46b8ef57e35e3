/**
 * Shadow rays for a clean edge. In the middle of a shadow's edge half of a light is seen, and a ray finds it or does not: N rays that
 * know nothing of each other leave a standard error of half the light over √N (binomial, p = 1/2), more than anywhere else. Rays that
 * are spread, as here by fours, leave less: what is told is enough, and up to twice what it takes.
 *
 * @example
 * raysForEdge({ light: 2, rest: 0.8, albedo: 0.5, target: 2 }); // rays per pixel
 */
import { boostedDisplay, plainDisplay, visibleGrain } from '../data/grain.ts';

export interface EdgeLight {
  /** Irradiance of the light with nothing between, and of all other light; luminance, W/m². */
  light: number;
  rest: number;
  /** Of the surface, 0–1. */
  albedo: number;
  /** Noise that is good enough, display steps of 255. */
  target: number;
}

/** Rays beyond which none are told. */
const MOST = 65_536;

/** Noise in the middle of the edge at so many rays per pixel, display steps: with shadows boosted or as it is, whichever shows more. */
export function edgeNoise({ light, rest, albedo }: Omit<EdgeLight, 'target'>, rays: number): number {
  const scale = albedo / Math.PI;
  const y = scale * (rest + light / 2);
  const sigma = (scale * light) / 2 / Math.sqrt(rays);
  return Math.max(visibleGrain(y, sigma, boostedDisplay), visibleGrain(y, sigma, plainDisplay));
}

/** The fewest rays per pixel that keep the edge below the target. */
export function raysForEdge(of: EdgeLight): number {
  let [low, high] = [0, 1];
  while (high < MOST && edgeNoise(of, high) > of.target) [low, high] = [high, high * 2];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (edgeNoise(of, middle) > of.target) low = middle;
    else high = middle;
  }
  return high;
}
