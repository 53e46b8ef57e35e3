/** The least limits that let 99 % of the light through. */
import type { Propose } from '../../family.ts';
import type { LimitCase } from '../case.ts';
import { toLimits } from './to-limits.ts';

export const enough: Propose<LimitCase> = (of) => toLimits(of, 'enough', 'Let 99 % through', of.enough);
