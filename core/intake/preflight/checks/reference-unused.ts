import { CAUTION, type Check } from '../check.ts';
import { withoutUnused } from '../../repairs/without-unused.ts';
import { count } from '../tell.ts';

export const referenceUnused: Check = {
  id: 'reference-unused',
  group: 'travel',
  title: 'Unused references',
  why: 'Unused files make packages large, and break them when they go missing.',
  threshold: CAUTION,
  run({ source, document }) {
    const offenders = source.references
      .filter(({ used, resolved }) => !used && resolved !== null)
      .map(({ path, kind, neededBy }) => ({
        object: path,
        detail: `${kind} named by ${neededBy}; nothing of it is used`,
        count: 1,
      }));
    return {
      expected: 'none',
      found: count(offenders, 'unused file'),
      offenders,
      repair: withoutUnused(document),
    };
  },
};
