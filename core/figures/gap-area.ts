/** What lies between the two sides of all seams, length times gap: see `seams/gaps.ts`. */
import type { Figure } from './figure.ts';

export const gapArea: Figure = {
  id: 'gap-area',
  label: 'Area of gaps along seams',
  short: 'gap area',
  unit: 'area',
  better: 'less',
  change: 'difference',
  seen: 1e-9,
  needs: () => null,
  measure: ({ ofScene }) => ofScene['gap-area'] ?? null,
};
