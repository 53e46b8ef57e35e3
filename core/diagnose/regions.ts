/** Regions and masks of pixels that belong together. */
import { channel, type Picture, type Region } from '../data/picture.ts';
import { objectIds } from '../document/object-names.ts';
import type { ShotDocument } from '../document/schema.ts';
import { strongestWindow } from '../picture/measured.ts';

/** Of the frame, where a trial shows something that fills objects. */
const SHOWN = { width: 0.3, height: 0.4 };

/** A byte a pixel, 1 for those named. @param pixels full-frame numbers */
export function maskOf({ width, height }: Picture, pixels: Iterable<number>): Uint8Array {
  const mask = new Uint8Array(width * height);
  for (const i of pixels) mask[i] = 1;
  return mask;
}

/** Full-frame numbers of the pixels of each object that is seen, by its key. */
export function pixelsByObject(document: Pick<ShotDocument, 'objects'>, picture: Picture): Map<string, number[]> {
  const ids = objectIds(document);
  const out = new Map<string, number[]>();
  channel(picture, 'object').forEach((number, i) => {
    if (number === 0) return;
    const own = out.get(ids[number - 1]);
    if (own) own.push(i);
    else out.set(ids[number - 1], [i]);
  });
  return out;
}

/** The part of a frame with the most of a mask or a weight, as large as a trial wants it. */
export const regionOf = (picture: Picture, weight: ArrayLike<number>, size = SHOWN): Region =>
  strongestWindow(picture, weight, Math.ceil(picture.width * size.width), Math.ceil(picture.height * size.height));

/** The same with what is marked in its middle, as far as the frame goes: of a line many windows hold as much. */
export function regionAround(picture: Picture, mask: Uint8Array): Region {
  const region = regionOf(picture, mask);
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let y = region.y; y < region.y + region.height; y++)
    for (let x = region.x; x < region.x + region.width; x++) {
      if (!mask[y * picture.width + x]) continue;
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
    }
  const middle = (low: number, high: number, size: number, most: number) =>
    Math.min(most - size, Math.max(0, Math.round((low + high - size) / 2)));
  return {
    ...region,
    x: middle(left, right, region.width, picture.width),
    y: middle(top, bottom, region.height, picture.height),
  };
}
