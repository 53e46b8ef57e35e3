/**
 * A place that is chosen for its noise has more of it in the picture that it was chosen in than in any other: what chance
 * brought there is chosen with it. So one half of the pixels chooses, and the other, whose noise is independent, is measured.
 * The halves are the squares of a chessboard. Source of the reasoning: Stone, "Cross-Validatory Choice", 1974.
 */
import type { Picture, Region } from '../data/picture.ts';
import { cropPlane, type Plane } from './measured.ts';

/** Whether full-frame pixel (x, y) is one of those that are measured. */
export const isMeasured = (x: number, y: number): boolean => ((x + y) & 1) === 1;

/** A plane of the whole picture with nothing but what chooses. */
export const choosing = (picture: Picture, plane: Plane): Plane =>
  plane.map((value, i) => (isMeasured(picture.x + (i % picture.width), picture.y + Math.floor(i / picture.width)) ? 0 : value)); // prettier-ignore

/** Of planes over the picture, the values in a region that are measured; all of them where the region is one pixel. */
export function measuredIn(picture: Picture, region: Region, ...planes: Plane[]): Plane[] {
  const isOne = region.width * region.height === 1;
  return planes.map(
    (plane) =>
    cropPlane(picture, plane, region).filter((_, i) => isOne || isMeasured(region.x + (i % region.width), region.y + Math.floor(i / region.width))), // prettier-ignore
  );
}
