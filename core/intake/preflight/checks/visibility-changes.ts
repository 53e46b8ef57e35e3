import { CAUTION, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const visibilityChanges: Check = {
  id: 'visibility-changes',
  group: 'time',
  title: 'Animated visibility',
  why: 'Objects that pop on and off within a shot flicker in motion blur and surprise whoever lights another frame.',
  threshold: CAUTION,
  run({ source }) {
    const offenders = source.nodes
      .filter(({ visibilityChanges }) => visibilityChanges)
      .map(({ path }) => ({ object: path, detail: 'its visibility is animated', count: 1 }));
    return { expected: 'none', found: count(offenders, 'node'), offenders };
  },
};
