/** Brightness in stops that stays a figure where one side is black. */

/** What goes out altogether, or comes out of the dark, is told as so many stops. */
export const MOST_STOPS = 20;
/** Stops of black: further below any light than is told. */
export const BLACK_STOPS = -60;

/** Stops above a luminance of 1; `BLACK_STOPS` for none. */
export const stopsOf = (luminance: number): number =>
  luminance > 0 ? Math.max(BLACK_STOPS, Math.log2(luminance)) : BLACK_STOPS;

/** Stops from one brightness to another, at most twenty either way; 0 where both are black. */
export const stopsBetween = (before: number, after: number): number =>
  Math.max(-MOST_STOPS, Math.min(MOST_STOPS, stopsOf(after) - stopsOf(before)));
