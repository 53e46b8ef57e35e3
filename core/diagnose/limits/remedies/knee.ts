/** The limits at which more of them begins to bring little. */
import type { Propose } from '../../family.ts';
import type { LimitCase } from '../case.ts';
import { toLimits } from './to-limits.ts';

export const knee: Propose<LimitCase> = (of) => {
  const { kind, enough, knee: limits } = of;
  if (limits[kind] >= enough[kind]) return null;
  return toLimits(of, 'knee', `Stop at the knee, ${limits[kind]} and ${limits.overall}`, limits);
};
