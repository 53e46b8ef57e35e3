import { CAUTION, type Check } from '../check.ts';

export const outputMissing: Check = {
  id: 'output-missing',
  group: 'picture',
  title: 'Output',
  why: 'A render without a place to write to is lost when the machine is given to the next job.',
  threshold: CAUTION,
  run({ source }) {
    if (source.format !== 'USD') return 'scenes of this format do not say where pictures go';
    const { output } = source.settings;
    return {
      expected: 'a file to write',
      found: output ?? 'none',
      offenders: output ? [] : [{ object: source.file, detail: 'no render product names a file', count: 1 }],
    };
  },
};
