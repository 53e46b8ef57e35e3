/** Half the noise, where the target is too dear to be advice enough. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { titleOf } from '../plans.ts';

/** Times the rays from which on a target is dear. */
const DEAR = 6;

export const half: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'over') return null;
  const { plans, now, input } = of;
  if (plans.plain(plans.scale).rays / plans.raysNow <= DEAR) return null;
  const plan = plans.mixed(0.5);
  // Where a few bright samples decide, the smoothed picture is no guide to halves.
  if (plans.grainAt(plan) >= now) return null;
  return plans.even('half', `Half the noise: ${titleOf(input.sheet.extraSamples, plan)}`, plan);
};
