import { STOP, type Check } from '../check.ts';

export const frameSpan: Check = {
  id: 'frame-span',
  group: 'time',
  title: 'Frames',
  why: 'Frames outside the range are rendered for nothing; missing ones leave a hole in the cut.',
  threshold: STOP,
  run({ source, profile, document }) {
    const first = source.settings.firstFrame;
    const last = source.settings.lastFrame;
    if (first === null || last === null) return 'the scene states no span of frames';
    const [from, to] = [profile.firstFrame ?? first, profile.lastFrame ?? last];
    const offenders = [];
    if (first > last)
      offenders.push({ object: source.file, detail: `begins at ${first} and ends at ${last}`, count: 1 });
    else if (first !== from || last !== to)
      offenders.push({
        object: source.file,
        detail: `${first} to ${last}`,
        count: Math.abs(first - from) + Math.abs(last - to),
      });
    if (document && (document.frame < from || document.frame > to))
      offenders.push({ object: source.file, detail: `frame ${document.frame} is outside`, count: 1 });
    return { expected: `${from} to ${to}`, found: `${first} to ${last}`, offenders };
  },
};
