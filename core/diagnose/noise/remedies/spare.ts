/** As few samples as keep the noisiest place within the target. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { titleOf } from '../plans.ts';

export const spare: Propose<NoiseCase> = (of) =>
  of.kind === 'spare' ? of.plans.even('spare', titleOf(of.input.sheet.extraSamples, of.plan), of.plan) : null;
