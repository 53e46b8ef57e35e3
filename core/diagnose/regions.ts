/** Regions and masks of pixels that belong together. */
import type { Picture, Region } from '../data/picture.ts';
import { strongestWindow } from '../picture/measured.ts';

/** Of the frame, where a trial shows something that fills objects. */
const SHOWN = { width: 0.3, height: 0.4 };

/** A byte a pixel, 1 for those named. @param pixels full-frame numbers */
export function maskOf({ width, height }: Picture, pixels: Iterable<number>): Uint8Array {
  const mask = new Uint8Array(width * height);
  for (const i of pixels) mask[i] = 1;
  return mask;
}

/** The part of a frame with the most of a mask or a weight, as large as a trial wants it. */
export const regionOf = (picture: Picture, weight: ArrayLike<number>, size = SHOWN): Region =>
  strongestWindow(picture, weight, Math.ceil(picture.width * size.width), Math.ceil(picture.height * size.height));
