/** Farthest that the two sides of a seam stand apart in the frame: see `seams/gaps.ts`. */
import type { Figure } from './figure.ts';

export const gapPixels: Figure = {
  id: 'gap-pixels',
  label: 'Greatest gap along seams in the picture',
  short: 'gap seen',
  unit: 'pixels',
  better: 'less',
  change: 'difference',
  seen: 0.05,
  needs: () => null,
  measure: ({ ofScene }) => ofScene['gap-pixels'] ?? null,
};
