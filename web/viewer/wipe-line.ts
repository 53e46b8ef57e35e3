/**
 * The line that parts two pictures over each other, at any angle.
 *
 * const line = wipeLine(size, { at: 0.5, angle: 90 });  // upright, in the middle
 * isFirst(line, { x: 10, y: 10 });                      // the first picture is on its near side
 */
import type { Point, Size } from './frame-place.ts';

/** @property at 0 all of the second picture, 1 all of the first  @property angle degrees; 0 level, 90 upright */
export interface Wipe {
  at: number;
  angle: number;
}

/** @property normal of length 1, from the first picture to the second  @property x, y a point of the line */
export interface WipeLine extends Point {
  normal: Point;
}

function normalOf(angle: number): Point {
  const radians = (angle * Math.PI) / 180;
  return { x: Math.sin(radians), y: -Math.cos(radians) };
}
/** Screen pixels from one side of the screen to the other, along the normal. */
const reachOf = (normal: Point, { width, height }: Size) => Math.abs(normal.x) * width + Math.abs(normal.y) * height;

export function wipeLine(size: Size, { at, angle }: Wipe): WipeLine {
  const normal = normalOf(angle);
  const from = (at - 0.5) * reachOf(normal, size);
  return { normal, x: size.width / 2 + normal.x * from, y: size.height / 2 + normal.y * from };
}

export function isFirst({ normal, x, y }: WipeLine, point: Point): boolean {
  return (point.x - x) * normal.x + (point.y - y) * normal.y < 0;
}

/** Corners of the side of the second picture, screen pixels; far outside the screen but for the line. */
export function wipePart({ normal, x, y }: WipeLine, size: Size): [number, number][] {
  const far = 4 * (size.width + size.height);
  const along = { x: -normal.y, y: normal.x };
  return [
    [x + along.x * far, y + along.y * far],
    [x + (along.x + normal.x) * far, y + (along.y + normal.y) * far],
    [x + (normal.x - along.x) * far, y + (normal.y - along.y) * far],
    [x - along.x * far, y - along.y * far],
  ];
}

/** `clip-path` that leaves of the second picture what is on its side. */
export const wipeClip = (line: WipeLine, size: Size): string =>
  `polygon(${wipePart(line, size).map(([px, py]) => `${px.toFixed(1)}px ${py.toFixed(1)}px`).join(', ')})`; // prettier-ignore

/** @returns `at` of the line through a point */
export function wipeThrough(point: Point, size: Size, angle: number): number {
  const normal = normalOf(angle);
  const from = (point.x - size.width / 2) * normal.x + (point.y - size.height / 2) * normal.y;
  return Math.max(0, Math.min(1, from / reachOf(normal, size) + 0.5));
}

/** @returns degrees of the line from the middle of the screen to a point */
export function wipeTurned(point: Point, size: Size): number {
  const turn = (Math.atan2(point.y - size.height / 2, point.x - size.width / 2) * 180) / Math.PI;
  return Math.round((turn + 360) % 360);
}
