/** Thread time of the region, seconds. Of the machine that rendered it: compare it with itself only. */
import { times } from './carry.ts';
import type { Figure } from './figure.ts';

export const time: Figure = {
  id: 'time',
  label: 'Time on one thread',
  short: 'time',
  unit: 'seconds',
  better: 'less',
  change: 'ratio',
  seen: 0.15,
  needs: () => null,
  measure: ({ seconds }) => seconds,
  carry: (value, { standsFor }) => times(value, standsFor, standsFor),
};
