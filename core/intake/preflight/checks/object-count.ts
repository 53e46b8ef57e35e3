import { type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const objectCount: Check = {
  id: 'object-count',
  group: 'weight',
  title: 'Objects',
  why: 'Scenes of very many small objects take long to open and to hand over.',
  threshold: { caution: 20_000, stop: 200_000 },
  run({ objects }) {
    const amount = objects.length;
    return { expected: 'few enough to open quickly', found: plural(amount, 'object'), amount, offenders: [] };
  },
};
