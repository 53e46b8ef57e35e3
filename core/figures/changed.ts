/** How much of the region changes by more than a tenth of a stop, beyond its noise, on the pass that shows it. */
import type { Figure } from './figure.ts';
import { seenPasses, SHOWN } from './seen-in.ts';

export const changed: Figure = {
  id: 'changed',
  label: 'Region changed by more than 0.1 stop',
  short: 'changed',
  unit: 'share',
  better: 'neither',
  change: 'difference',
  seen: SHOWN,
  needs: seenPasses,
  compare: ({ before, pass, share }) =>
    before.picture
      ? { before: 0, after: share, ...(pass === 'beauty' ? {} : { of: pass }) }
      : { before: null, after: null },
};
