/**
 * How occlusion fades with how far its occluder is, up to the greatest distance that counts: the openness of a ray that is
 * occluded at a share of it. All end at 1 there, so that the distance has no edge.
 *
 * Sources: `none`, all or nothing: Landis, "Production-Ready Global Illumination", SIGGRAPH course 16, 2002. `square-root`:
 * Méndez, Sbert & Neumann, "Obscurances for ray-tracing", Eurographics 2003. `exponential`: Iones, Krupkin, Sbert & Zhukov, "Fast,
 * Realistic Lighting for Video Games", IEEE CG&A 23(3), 2003; brought to 1 at the end, its rate from memory. `linear` is the simplest that
 * Zhukov, Iones & Kronin, "An Ambient Light Illumination Model", EGWR 1998, ask of it: rising from 0 to 1.
 *
 * @example
 * fade(falloffNumber('square-root'), 0.25);   // 0.5
 */
import type { f64, i32 } from './numbers.ts';

export const FALLOFFS = ['none', 'linear', 'square-root', 'exponential'] as const;
export type Falloff = (typeof FALLOFFS)[number];
export const NO_FALLOFF: i32 = 0;

export const falloffNumber = (falloff: Falloff): i32 => FALLOFFS.indexOf(falloff);

/** Rate of the exponential over the whole distance. */
const RATE: f64 = 3;

/**
 * @param falloff number of one of `FALLOFFS`
 * @param share of the greatest distance, 0–1; 0 where there is none
 * @returns openness, 0 shut to 1 open
 */
export function fade(falloff: i32, share: f64): f64 {
  if (falloff === 1) return share;
  if (falloff === 2) return Math.sqrt(share);
  if (falloff === 3) return (1 - Math.exp(-RATE * share)) / (1 - Math.exp(-RATE));
  return 0;
}
