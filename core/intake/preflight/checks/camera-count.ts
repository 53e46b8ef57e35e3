import { STOP, type Check } from '../check.ts';

export const cameraCount: Check = {
  id: 'camera-count',
  group: 'picture',
  title: 'Cameras',
  why: 'With no camera there is no picture; with several the farm may pick the wrong one.',
  threshold: STOP,
  run({ source, profile }) {
    const { cameras } = source;
    const wanted = profile.cameras;
    const isRight = wanted === null ? cameras.length > 0 : cameras.length === wanted;
    const offenders = isRight
      ? []
      : cameras.length
        ? cameras.map(({ name }) => ({ object: name, detail: 'a camera', count: 1 }))
        : [{ object: source.file, detail: 'has no camera', count: 1 }];
    return { expected: wanted === null ? 'at least 1' : String(wanted), found: String(cameras.length), offenders };
  },
};
