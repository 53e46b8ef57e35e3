/**
 * A path's kinds of events in order, as one whole number that a 32-bit float can hold: base-5 digits, the first
 * event first, at most ten of them.
 *
 * @example
 * pathOf(extend(extend(0, DIFFUSE), TRANSMISSION));   // 'camera, diffuse, transmission'
 */
import type { i32 } from '../../data/numbers.ts';

const MOST = 5 ** 9;
const NAMES = ['diffuse', 'specular', 'transmission', 'volume'];

export const extend = (signature: i32, kind: i32): i32 => (signature >= MOST ? signature : signature * 5 + kind + 1);

/** Kinds of the events in order. */
export function eventsOf(signature: number): string[] {
  const events: string[] = [];
  for (let s = signature; s > 0; s = Math.floor(s / 5)) events.unshift(NAMES[(s % 5) - 1]);
  return events;
}

export const pathOf = (signature: number): string => ['camera', ...eventsOf(signature)].join(', ');

/** Whether light came at once, as passes and clamps have it: after one event at most, or straight through glass. */
export function isDirect(signature: number): boolean {
  if (signature < 5) return true;
  for (let s = signature; s > 0; s = Math.floor(s / 5)) if (NAMES[(s % 5) - 1] !== 'transmission') return false;
  return true;
}

/**
 * Whether an event before the last one spread the path, so that its light was found by where chance sent it: diffuse,
 * fog or a reflection, which a signature cannot tell from a sharp one.
 */
export function isBounced(signature: number): boolean {
  for (let s = Math.floor(signature / 5); s > 0; s = Math.floor(s / 5)) if (NAMES[(s % 5) - 1] !== 'transmission') return true; // prettier-ignore
  return false;
}
