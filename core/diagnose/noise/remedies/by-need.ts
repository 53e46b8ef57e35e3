/** Each pixel has the samples that it needs. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { mixture } from './target-mixture.ts';

export const byNeed: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'over' || of.input.sheet.adaptive.on) return null;
  return of.plans.needed('by-need', mixture(of) ?? of.plans.plain(of.plans.scale));
};
