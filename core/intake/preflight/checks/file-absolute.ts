import { CAUTION, type Check } from '../check.ts';
import { leadPath } from '../../../formats/paths.ts';
import { count } from '../tell.ts';

export const fileAbsolute: Check = {
  id: 'file-absolute',
  group: 'travel',
  title: 'Absolute paths',
  why: 'A path from the root of this machine leads nowhere on another one.',
  threshold: CAUTION,
  run({ source }) {
    const offenders = source.references
      .filter(({ path }) => leadPath('', path).kind === 'absolute')
      .map(({ path, neededBy }) => ({ object: path, detail: `written in full by ${neededBy}`, count: 1 }));
    return { expected: 'paths from the scene’s folder', found: count(offenders, 'absolute path'), offenders };
  },
};
