/** Rays that the region takes, those that decide how many samples a pixel gets among them. */
import { channel } from '../data/picture.ts';
import type { Figure } from './figure.ts';
import { times } from './carry.ts';

export const rays: Figure = {
  id: 'rays',
  label: 'Rays',
  short: 'rays',
  unit: 'rays',
  better: 'less',
  change: 'ratio',
  seen: 0.03,
  always: true,
  needs: () => ['samples', 'cost'],
  measure({ picture, deciding }) {
    if (!picture) return null;
    const samples = channel(picture, 'samples');
    return channel(picture, 'cost').reduce((sum, each, i) => sum + each * (samples[i] + deciding), 0);
  },
  carry: (value, { standsFor }) => times(value, standsFor, standsFor),
};
