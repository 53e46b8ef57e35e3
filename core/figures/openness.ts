/** How open an occlusion pass is: the mean of its pixels that show a surface. */
import { figuresOf } from '../occlusion/curve.ts';
import type { Figure } from './figure.ts';
import { occlusionPasses, opennessIn } from './occlusion-pass.ts';

export const openness: Figure = {
  id: 'openness',
  label: 'Open in the occlusion pass',
  short: 'open',
  unit: 'share',
  better: 'neither',
  change: 'difference',
  seen: 0.01,
  needs: occlusionPasses,
  measure({ picture }) {
    const values = opennessIn(picture);
    return values && figuresOf(values, Infinity).mean;
  },
};
