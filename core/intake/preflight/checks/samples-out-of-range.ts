import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { ofProfile } from '../of-profile.ts';
import { count } from '../tell.ts';

const LEAST = 16;
const MOST = 4096;

export const samplesOutOfRange: Check = {
  id: 'samples-out-of-range',
  group: 'sheet',
  title: 'Samples',
  why: 'Too few leave noise, too many waste farm time; beyond the range it is probably a typo.',
  threshold: CAUTION,
  run({ source, document, profile }) {
    if (!source.sheets) return 'the scene has no sheets of ours';
    const offenders: Offender[] = [];
    for (const [name, sheet] of Object.entries(source.sheets)) {
      if (sheet.samples > MOST || (name === 'final' && sheet.samples < LEAST))
        offenders.push({ object: `${name} sheet`, detail: `${sheet.samples} samples per pixel`, count: 1 });
      for (const [kind, n] of Object.entries(sheet.extraSamples))
        if (n * sheet.samples > MOST * 4)
          offenders.push({
            object: `${name} sheet`,
            detail: `${kind}: ${n} extra for each of ${sheet.samples} samples`,
            count: 1,
          });
    }
    return {
      expected: `${LEAST} to ${MOST} per pixel`,
      found: count(offenders, 'figure'),
      offenders,
      repair: ofProfile(document, profile, '/samples'),
    };
  },
};
