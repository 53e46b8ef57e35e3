/** What a sequence takes: noise that changes from frame to frame boils, and is held to half of a still's (a rule of ours, by eye). */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { MOST_SAMPLES, titleOf } from '../plans.ts';

const IN_MOTION = 0.5;

export const sequence: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'over') return null;
  const { plans, input, target } = of;
  const moving = plans.mixed(plans.scaleTo(target * IN_MOTION));
  if (moving.samples > MOST_SAMPLES) return null;
  return {
    ...plans.even('sequence', `For a sequence: ${titleOf(input.sheet.extraSamples, moving)}`, moving),
    note: `Noise that changes from frame to frame boils: half the still’s ${target.toFixed(1)} of 255.`,
  };
};
