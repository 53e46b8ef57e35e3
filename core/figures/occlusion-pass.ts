/** The occlusion pass of a picture, where surfaces are. */
import type { Picture } from '../data/picture.ts';
import type { FilmLayout } from '../render/film/passes.ts';
import { planeOf } from './planes.ts';

/** Pixels covered by less show the background. */
const COVERED = 0.5;

export const occlusionPasses = ({ occlusion }: FilmLayout): string[] => (occlusion ? ['occlusion', 'coverage'] : []);

/** Tells each pixel that shows a surface: its openness, 0 shut to 1 open, and its place in the planes. */
export function opennessOf(picture: Picture, tell: (openness: number, pixel: number) => void): void {
  const plane = planeOf(picture, 'occlusion');
  const coverage = planeOf(picture, 'coverage');
  if (!plane || !coverage) return;
  // Edge pixels have part of the background's nothing in them.
  for (let i = 0; i < plane.length; i++) if (coverage[i] >= COVERED) tell(Math.min(1, plane[i] / coverage[i]), i);
}

/** Openness of each pixel that shows a surface, 0 shut to 1 open; null where the picture has no such pass or no surface. */
export function opennessIn(picture: Picture | null): Float32Array | null {
  const values: number[] = [];
  if (picture) opennessOf(picture, (openness) => values.push(openness));
  return values.length > 0 ? Float32Array.from(values) : null;
}
