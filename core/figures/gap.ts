/** Farthest that the two sides of a seam have moved apart, in the world: see `seams/gaps.ts`. */
import type { Figure } from './figure.ts';

export const gap: Figure = {
  id: 'gap',
  label: 'Greatest gap along seams',
  short: 'gap',
  unit: 'metres',
  better: 'less',
  change: 'difference',
  seen: 1e-6,
  needs: () => null,
  measure: ({ ofScene }) => ofScene.gap ?? null,
};
