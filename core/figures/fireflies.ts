/** Pixels of the region that stand out by one sample. */
import { FIREFLY_PASSES, singleFireflies } from '../picture/single-fireflies.ts';
import { times } from './carry.ts';
import type { Figure } from './figure.ts';

export const fireflies: Figure = {
  id: 'fireflies',
  label: 'Fireflies',
  short: 'fireflies',
  unit: 'count',
  better: 'less',
  change: 'difference',
  seen: 1,
  needs: () => FIREFLY_PASSES,
  measure: ({ picture }) => picture && singleFireflies(picture).length,
  // Each pixel stands for others, and each hit of the real render's further samples is a further firefly.
  carry(value, { standsFor, samplesFor: [first, second] }) {
    const { before, after, ...rest } = times(value, standsFor * first, standsFor * second);
    return {
      ...rest,
      before: before === null ? null : Math.round(before),
      after: after === null ? null : Math.round(after),
    };
  },
};
