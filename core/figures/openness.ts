/** How open an occlusion pass is: the mean of its pixels that show a surface. */
import type { Figure } from './figure.ts';
import { planeOf } from './planes.ts';

/** Pixels covered by less show the background. */
const COVERED = 0.5;

export const openness: Figure = {
  id: 'openness',
  label: 'Open in the occlusion pass',
  short: 'open',
  unit: 'share',
  better: 'neither',
  change: 'difference',
  seen: 0.01,
  needs: ({ occlusion }) => (occlusion ? ['occlusion', 'coverage'] : []),
  measure({ picture }) {
    const plane = picture && planeOf(picture, 'occlusion');
    const coverage = picture && planeOf(picture, 'coverage');
    if (!plane || !coverage) return null;
    let [sum, n] = [0, 0];
    for (let i = 0; i < plane.length; i++)
      if (coverage[i] >= COVERED) {
        // Edge pixels have part of the background's nothing in them.
        sum += plane[i] / coverage[i];
        n++;
      }
    return n > 0 ? Math.min(1, sum / n) : null;
  },
};
