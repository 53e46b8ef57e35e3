/** What an occlusion pass tells, bits a pixel: the entropy of its values in sixteen steps (Shannon 1948). */
import { figuresOf } from '../occlusion/curve.ts';
import type { Figure } from './figure.ts';
import { occlusionPasses, opennessIn } from './occlusion-pass.ts';

export const information: Figure = {
  id: 'information',
  label: 'Information in the occlusion pass',
  short: 'tells',
  unit: 'bits',
  better: 'more',
  change: 'difference',
  seen: 0.2,
  needs: occlusionPasses,
  measure({ picture }) {
    const values = opennessIn(picture);
    return values && figuresOf(values, Infinity).information;
  },
};
