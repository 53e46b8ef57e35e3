/** A filter without negative lobes. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { sharpFilter, SOFT, SOFT_WIDTH } from '../causes/sharp-filter.ts';

export const softFilter: Propose<NoiseCase> = (of) =>
  sharpFilter.without!(of) && {
    id: 'soft-filter',
    title: `Use a Gaussian filter of ${SOFT_WIDTH} pixels`,
    change: { kind: 'values', values: SOFT },
    note: 'Edges get softer by about half a pixel, and bright ones lose their dark rim.',
  };
