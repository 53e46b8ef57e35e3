/** Samples for everything, as many as the target takes. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

export const target: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'over') return null;
  const plan = of.plans.plain(of.plans.scale);
  return of.plans.even('target', `${plan.samples} samples per pixel`, plan);
};
