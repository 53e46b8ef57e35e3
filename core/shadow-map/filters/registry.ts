import { definition as exponential } from './exponential.ts';
import type { ShadowFilter } from './filter.ts';
import { definition as percentageCloser } from './percentage-closer.ts';
import { definition as single } from './single.ts';
import { definition as variance } from './variance.ts';

const FILTERS: readonly ShadowFilter[] = [single, percentageCloser, variance, exponential];

export function filterOf(id: ShadowFilter['id']): ShadowFilter {
  const filter = FILTERS.find((one) => one.id === id);
  if (!filter) throw new RangeError(`there is no filter "${id}" of depth maps; there are ${FILTERS.map((one) => one.id).join(', ')}`); // prettier-ignore
  return filter;
}
