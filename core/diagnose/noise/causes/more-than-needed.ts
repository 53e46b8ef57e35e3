/** The noise stands well below what the sheet is to reach. */
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

export const moreThanNeeded: Cause<NoiseCase> = {
  id: 'noise.more-than-needed',
  share: ({ kind }) => (kind === 'spare' ? 1 : null),
};
