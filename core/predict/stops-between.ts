/** Figures of a change that stay figures where one side is black. */

/** What goes out altogether, or comes out of the dark, is told as so many stops. */
const MOST = 20;

/** Stops from one brightness to another, at most twenty either way; 0 where both are black. */
export function stopsBetween(before: number, after: number): number {
  if (!(before > 0)) return after > 0 ? MOST : 0;
  return Math.max(-MOST, Math.min(MOST, Math.log2(after / before)));
}

/**
 * Grain that a small render foretells for a picture: the picture's own times what the change does to that of the small
 * render, or what the small render has after it, where there was none to multiply.
 */
export const carriedGrain = (now: number, smallBefore: number, smallAfter: number): number =>
  smallBefore > 0 && now > 0 ? (now * smallAfter) / smallBefore : smallAfter;
