import { type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const objectCount: Check = {
  id: 'object-count',
  group: 'weight',
  title: 'Objects',
  why: 'Scenes with very many small objects are slow to open and to transfer.',
  threshold: { caution: 20_000, stop: 200_000 },
  run({ objects }) {
    const amount = objects.length;
    return { expected: 'few enough to open quickly', found: plural(amount, 'object'), amount, offenders: [] };
  },
};
