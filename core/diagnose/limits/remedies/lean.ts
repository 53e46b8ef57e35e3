/** The least limits that keep 99.9 % of the light. */
import type { Propose } from '../../family.ts';
import type { AnyLimitCase } from '../definition.ts';
import { toLimits } from './to-limits.ts';

export const lean: Propose<AnyLimitCase> = (of) =>
  of.kind === 'waste' ? toLimits(of, 'lean', 'Only the depth the light uses', of.lean) : null;
