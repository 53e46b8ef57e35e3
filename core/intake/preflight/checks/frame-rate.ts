import { STOP, type Check } from '../check.ts';

export const frameRate: Check = {
  id: 'frame-rate',
  group: 'time',
  title: 'Frame rate',
  why: 'At another rate the shot drifts out of sync with edit and sound.',
  threshold: STOP,
  run({ source, profile }) {
    const { frameRate } = source.settings;
    if (frameRate === null) return 'the scene states no frame rate';
    const expected = profile.frameRate === null ? 'any' : `${profile.frameRate} frames per second`;
    const found = `${frameRate} frames per second`;
    const isRight = profile.frameRate === null || Math.abs(frameRate - profile.frameRate) < 1e-6;
    return { expected, found, offenders: isRight ? [] : [{ object: source.file, detail: found, count: 1 }] };
  },
};
