/** A pass as planes that figures read. */
import type { Picture } from '../data/picture.ts';
import { luminancePlane, type Plane } from '../picture/measured.ts';

/** Brightness of a light pass, or the one plane of a pass of shares and amounts. Null where the picture lacks it. */
export function planeOf(picture: Picture, pass: string): Plane | null {
  if (picture.channels.has(`${pass}.R`)) return luminancePlane(picture, pass);
  return picture.channels.get(pass) ?? null;
}

/** The pass that figures of brightness are told of: that of the change, unless it has none. */
export const brightPass = (picture: Picture, pass: string): string => (planeOf(picture, pass) ? pass : 'beauty');

/** All planes of a pass: brightness of light, the parts of a direction or place. */
export function planesOf(picture: Picture, pass: string): Plane[] {
  const one = planeOf(picture, pass);
  if (one) return [one];
  return [...picture.channels].filter(([name]) => name.startsWith(`${pass}.`)).map(([, plane]) => plane);
}
