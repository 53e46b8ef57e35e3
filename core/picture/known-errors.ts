/**
 * Pixels of one group of samples have no spread, and their error is not 0 but unknown. It is estimated from the picture then,
 * as that of pictures by themselves is (Immerkær 1996), and whoever tells a figure of it says so.
 */
import { channel, type Picture } from '../data/picture.ts';
import { GROUP } from '../render/film/random.ts';
import { luminancePlane } from './measured.ts';
import { noisePlane } from './noise.ts';

/** Told beside figures that come from an estimate. */
export const ESTIMATED = 'One group of samples has no error of its own: noise is estimated from the picture.';

/** Whether any pixel has samples enough to tell an error of its own. @param picture with its samples */
export const hasErrors = (picture: Picture): boolean => channel(picture, 'samples').some((n) => n >= 2 * GROUP);

/** The same picture, errors of its light passes estimated where it has none; as it is otherwise. */
export function withKnownErrors(picture: Picture): Picture {
  if (!picture.channels.has('samples') || hasErrors(picture)) return picture;
  const channels = new Map(picture.channels);
  for (const name of picture.channels.keys()) {
    const pass = name.slice('error.'.length);
    if (name.startsWith('error.') && channels.has(`${pass}.R`))
      channels.set(name, noisePlane(luminancePlane(picture, pass), picture.width, picture.height));
  }
  return { ...picture, channels };
}
