/** A run of colours from 0 to 1, in one flat array: place, red, green, blue of each stop. */
import type { StopsSpec } from '../document/schema.ts';

export const STOP_STRIDE = 4;

export function compileStops(stops: StopsSpec): Float64Array {
  return Float64Array.from(stops.flatMap(({ at, colour }) => [at, ...colour]));
}

/** Writes the colour at `x` to `out[0..2]`: linear between stops, the outer stops' own beyond them. */
export function colourAt(stops: Float64Array, x: number, out: Float64Array): void {
  const last = stops.length - STOP_STRIDE;
  let o = 0;
  while (o < last && stops[o + STOP_STRIDE] <= x) o += STOP_STRIDE;
  out[0] = stops[o + 1];
  out[1] = stops[o + 2];
  out[2] = stops[o + 3];
  if (o === last || x <= stops[o]) return;
  const w = (x - stops[o]) / (stops[o + STOP_STRIDE] - stops[o]);
  for (let a = 0; a < 3; a++) out[a] += w * (stops[o + STOP_STRIDE + 1 + a] - out[a]);
}
