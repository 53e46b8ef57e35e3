import { CAUTION, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const visibilityChanges: Check = {
  id: 'visibility-changes',
  group: 'time',
  title: 'Visibility that changes',
  why: 'What comes and goes within a shot flickers in motion blur and surprises whoever lights another frame.',
  threshold: CAUTION,
  run({ source }) {
    const offenders = source.nodes
      .filter(({ visibilityChanges }) => visibilityChanges)
      .map(({ path }) => ({ object: path, detail: 'its visibility is animated', count: 1 }));
    return { expected: 'none', found: count(offenders, 'node'), offenders };
  },
};
