import { CAUTION, type Check } from '../check.ts';

export const settingsBlank: Check = {
  id: 'settings-blank',
  group: 'sheet',
  title: 'Missing settings',
  why: 'With no settings of its own a scene renders with whatever the machine defaults to.',
  threshold: CAUTION,
  run({ source }) {
    if (source.format !== 'USD') return 'scenes of this format hold no render settings to be blank';
    const { width, height, camera } = source.settings;
    const isBlank = width === null && height === null && camera === null;
    return {
      expected: 'render settings',
      found: isBlank ? 'none' : 'there',
      offenders: isBlank ? [{ object: source.file, detail: 'has no RenderSettings', count: 1 }] : [],
    };
  },
};
