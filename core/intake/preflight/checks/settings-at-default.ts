import { CAUTION, type Check } from '../check.ts';
import { defaultSheet } from '../../../document/defaults.ts';
import { ofProfile } from '../of-profile.ts';
import { differences } from '../sheets.ts';

export const settingsAtDefault: Check = {
  id: 'settings-at-default',
  group: 'sheet',
  title: 'Default settings',
  why: 'A final sheet nobody has touched was probably lost along the way; the last kept version has it.',
  threshold: CAUTION,
  run({ source, document, profile }) {
    if (!source.sheets) return 'the scene has no sheets of ours';
    const { final } = source.sheets;
    const changed = differences(final, { ...defaultSheet(), width: final.width, height: final.height });
    return {
      expected: 'settings chosen for the shot',
      found: changed.length ? `${changed.length} chosen` : 'all as in a new shot',
      offenders: changed.length ? [] : [{ object: 'final sheet', detail: 'has the settings of a new shot', count: 1 }],
      repair: ofProfile(document, profile),
    };
  },
};
