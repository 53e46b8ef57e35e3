import { CAUTION, type Check } from '../check.ts';
import { leadPath } from '../../../formats/paths.ts';
import { count } from '../tell.ts';

export const fileAbsolute: Check = {
  id: 'file-absolute',
  group: 'travel',
  title: 'Absolute paths',
  why: 'An absolute path from this machine does not exist on another.',
  threshold: CAUTION,
  run({ source }) {
    const offenders = source.references
      .filter(({ path }) => leadPath('', path).kind === 'absolute')
      .map(({ path, neededBy }) => ({ object: path, detail: `absolute in ${neededBy}`, count: 1 }));
    return { expected: 'paths from the scene’s folder', found: count(offenders, 'absolute path'), offenders };
  },
};
