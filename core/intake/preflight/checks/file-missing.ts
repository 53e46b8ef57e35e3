import { STOP, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const fileMissing: Check = {
  id: 'file-missing',
  group: 'travel',
  title: 'Missing files',
  why: 'Whatever the file holds is missing from the picture.',
  threshold: STOP,
  run({ source }) {
    const offenders = source.references
      .filter(({ kind, resolved }) => kind !== 'image' && resolved === null)
      .map(({ path, kind, neededBy }) => ({ object: path, detail: `${kind} named by ${neededBy}`, count: 1 }));
    return { expected: 'every file is there', found: count(offenders, 'missing file'), offenders };
  },
};
