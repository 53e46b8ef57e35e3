/**
 * Where a frame stands in a box of the screen: one scale and one place of the frame in the box's middle, so that
 * boxes beside or over each other show the same of it.
 *
 * const box = { x: 0, y: 0, width: 812, height: 612 };
 * const place = fittedPlace(box, frame, 1);      // all of it, with a margin
 * toFrame({ x: 406, y: 306 }, box, place, 1);    // the middle of the frame
 */
export interface Point {
  x: number;
  y: number;
}
export interface Size {
  width: number;
  height: number;
}
export type Box = Point & Size;

/** @property scale screen pixels to a frame's pixel, up and down  @property x, y frame's pixels, in the box's middle */
export interface Place extends Point {
  scale: number;
}

const MARGIN = 6;
export const LEAST_SCALE = 0.02;
export const MOST_SCALE = 64;

/** All of a frame, as large as it goes. @param aspect width of a pixel over its height */
export function fittedPlace(box: Size, frame: Size, aspect: number): Place {
  const scale = Math.min((box.width - 2 * MARGIN) / (frame.width * aspect), (box.height - 2 * MARGIN) / frame.height);
  return { scale: Math.max(0.01, scale), x: frame.width / 2, y: frame.height / 2 };
}

/** @returns the frame's place under a point of the screen */
export function toFrame(point: Point, box: Box, place: Place, aspect: number): Point {
  return {
    x: (point.x - box.x - box.width / 2) / (place.scale * aspect) + place.x,
    y: (point.y - box.y - box.height / 2) / place.scale + place.y,
  };
}

/** @returns a rectangle of the frame on the screen */
export function toScreen(rect: Box, box: Box, place: Place, aspect: number): Box {
  return {
    x: box.x + box.width / 2 + (rect.x - place.x) * place.scale * aspect,
    y: box.y + box.height / 2 + (rect.y - place.y) * place.scale,
    width: rect.width * place.scale * aspect,
    height: rect.height * place.scale,
  };
}

/** Nearer or further. @param at frame's place that stays where it is; the middle where none is given */
export function zoomed(place: Place, factor: number, at: Point = place): Place {
  const scale = Math.max(LEAST_SCALE, Math.min(MOST_SCALE, place.scale * factor));
  const k = place.scale / scale;
  return { scale, x: at.x - (at.x - place.x) * k, y: at.y - (at.y - place.y) * k };
}

/** Dragged along. @param by screen pixels that the pointer went */
export function dragged(place: Place, by: Point, aspect: number): Place {
  return { scale: place.scale, x: place.x - by.x / (place.scale * aspect), y: place.y - by.y / place.scale };
}
