import { STOP, type Check } from '../check.ts';
import type { Offender } from '../check.ts';

export const targetMismatch: Check = {
  id: 'target-mismatch',
  group: 'sheet',
  title: 'Renderer and extensions',
  why: 'A scene made for another renderer, or with extensions the target lacks, renders differently or not at all.',
  threshold: STOP,
  run({ source, profile }) {
    const { renderer } = source.settings;
    const { extensions } = source;
    if (profile.renderer === null && profile.extensions === null)
      return 'the profile asks for no renderer and no extensions';
    const offenders: Offender[] = [];
    if (profile.renderer !== null && renderer !== null && renderer !== profile.renderer)
      offenders.push({ object: source.file, detail: `was made for ${renderer}`, count: 1 });
    if (profile.extensions)
      for (const name of extensions)
        if (!profile.extensions.includes(name))
          offenders.push({ object: name, detail: 'an extension that the profile does not allow', count: 1 });
    const found = [renderer ?? 'no stated renderer', ...extensions];
    return {
      expected: [profile.renderer ?? 'any renderer', ...(profile.extensions ?? [])].join(', '),
      found: found.join(', '),
      offenders,
    };
  },
};
