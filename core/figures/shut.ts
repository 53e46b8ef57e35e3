/** Share of an occlusion pass that is black: what a closed room or too long a distance leaves of it. */
import { figuresOf } from '../occlusion/curve.ts';
import type { Figure } from './figure.ts';
import { occlusionPasses, opennessIn } from './occlusion-pass.ts';

export const shut: Figure = {
  id: 'shut',
  label: 'Occluded in the occlusion pass',
  short: 'occluded',
  unit: 'share',
  better: 'neither',
  change: 'difference',
  seen: 0.02,
  needs: occlusionPasses,
  measure({ picture }) {
    const values = opennessIn(picture);
    return values && figuresOf(values, Infinity).shut;
  },
};
