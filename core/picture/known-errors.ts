/**
 * Pixels of one group of samples have no spread, and their error is not 0 but unknown. It is estimated from the picture then,
 * as that of pictures by themselves is (Immerkær 1996), and whoever tells a figure of it says so.
 */
import { channel, type Picture } from '../data/picture.ts';
import { GROUP } from '../render/film/random.ts';
import { luminancePlane } from './measured.ts';
import { noisePlane } from './noise.ts';

/** Told beside figures that come from an estimate. */
export const ESTIMATED = 'One group of samples has no error of its own: such noise is estimated from the picture.';

const isKnown = (samples: number): boolean => samples === 0 || samples >= 2 * GROUP;

/** Whether all pixels have samples enough to tell an error of their own, or none at all. @param picture with its samples */
export const hasErrors = (picture: Picture): boolean => channel(picture, 'samples').every(isKnown);

/** The same picture, errors of its light passes estimated for pixels that have none; as it is where all have. */
export function withKnownErrors(picture: Picture): Picture {
  if (!picture.channels.has('samples') || hasErrors(picture)) return picture;
  const channels = new Map(picture.channels);
  const samples = channel(picture, 'samples');
  for (const name of picture.channels.keys()) {
    const pass = name.slice('error.'.length);
    if (!name.startsWith('error.') || !channels.has(`${pass}.R`)) continue;
    const estimated = noisePlane(luminancePlane(picture, pass), picture.width, picture.height);
    channels.set(
      name,
      channel(picture, name).map((error, i) => (isKnown(samples[i]) ? error : estimated[i])),
    );
  }
  return { ...picture, channels };
}
