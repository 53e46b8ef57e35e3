/** What no setting brings back: a map that has lost its peaks. */
import type { Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

export const newMap: Propose<ReliefCase> = ({ cause, study }) => {
  if (cause !== 'displacement.clipped-range') return null;
  const { end } = study.cut!;
  return {
    id: 'new-map',
    title: `Export the map again with headroom ${end === 'high' ? 'above 1' : 'below 0'}: as float, or with its range scaled down and the scale up`,
    change: null,
  };
};
