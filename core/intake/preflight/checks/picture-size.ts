import { STOP, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';

export const pictureSize: Check = {
  id: 'picture-size',
  group: 'picture',
  title: 'Resolution',
  why: 'A different resolution does not match the show’s plates and mattes.',
  threshold: STOP,
  run({ source, profile, document }) {
    const width = document?.sheets.final.width ?? source.settings.width;
    const height = document?.sheets.final.height ?? source.settings.height;
    if (width === null || height === null) return 'the scene states no picture size';
    const [w, h] = [profile.width ?? width, profile.height ?? height];
    const found = `${width} × ${height} pixels`;
    const isRight = width === w && height === h;
    return {
      expected: `${w} × ${h} pixels`,
      found,
      offenders: isRight ? [] : [{ object: document ? 'final sheet' : source.file, detail: found, count: 1 }],
      repair: setValues(`Set ${w} × ${h}`, document, { '/sheets/final/width': w, '/sheets/final/height': h }),
    };
  },
};
