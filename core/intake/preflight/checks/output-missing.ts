import { CAUTION, type Check } from '../check.ts';

export const outputMissing: Check = {
  id: 'output-missing',
  group: 'picture',
  title: 'Output path',
  why: 'A render with no output path is lost when the machine takes its next job.',
  threshold: CAUTION,
  run({ source }) {
    if (source.format !== 'USD') return 'scenes of this format do not say where pictures go';
    const { output } = source.settings;
    return {
      expected: 'an output file',
      found: output ?? 'none',
      offenders: output ? [] : [{ object: source.file, detail: 'no render product names a file', count: 1 }],
    };
  },
};
