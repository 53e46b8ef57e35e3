/** The cheapest mixture of kinds that reaches the target (Neyman 1934), where it is worth being one. */
import type { Plan } from '../../../predict/sample-plan.ts';
import type { Propose } from '../../family.ts';
import type { NoiseCase, OverCase } from '../case.ts';
import { titleOf } from '../plans.ts';

/** Share of the rays of samples per pixel. */
const WORTH = 0.95;

/** Null where samples per pixel are as cheap. */
export function mixture({ plans }: OverCase): Plan | null {
  const mixed = plans.mixed(plans.scale);
  return mixed.rays < WORTH * plans.plain(plans.scale).rays ? mixed : null;
}

export const targetMixture: Propose<NoiseCase> = (of) => {
  const mixed = of.kind === 'over' ? mixture(of) : null;
  if (of.kind !== 'over' || !mixed) return null;
  return of.plans.even('target-mixture', titleOf(of.input.sheet.extraSamples, mixed), mixed);
};
