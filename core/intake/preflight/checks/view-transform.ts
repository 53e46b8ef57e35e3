import { CAUTION, type Check } from '../check.ts';

export const viewTransform: Check = {
  id: 'view-transform',
  group: 'picture',
  title: 'View transform',
  why: 'Through another view transform exposure and colour are misjudged.',
  threshold: CAUTION,
  run({ source, profile }) {
    const { viewTransform } = source.settings;
    if (viewTransform === null) return 'the scene states no view transform';
    const isRight = profile.viewTransform === null || profile.viewTransform === viewTransform;
    return {
      expected: profile.viewTransform ?? 'any',
      found: viewTransform,
      offenders: isRight ? [] : [{ object: source.file, detail: viewTransform, count: 1 }],
    };
  },
};
