/**
 * Whether floats were made of a display picture: its values are whole 255ths, as an 8-bit file has them, with the display's curve
 * left on or undone. Light as a renderer or a camera's raw data has it lies on no such grid.
 */
import { srgbFromLinear } from '../data/colour.ts';

/** `display`: the curve is on, values are display values; `undone`: they were decoded, so that they are light up to white. */
export type DisplayGrid = 'display' | 'undone';

/** Values that are looked at, levels that must be among them, and the share that must lie on the grid. */
const LOOKED_AT = 20_000;
const LEVELS = 32;
const SHARE = 0.98;
/** Off a whole level, in levels: half floats near 1 are up to 0.06 off. Values anywhere would lie so near by 16 in 100. */
const OFF = 0.08;

/** @param values of colour channels; @returns null where they are not of a display picture, or too few levels to tell */
export function displayGrid(values: ArrayLike<number>): DisplayGrid | null {
  const step = Math.max(1, Math.floor(values.length / LOOKED_AT));
  const levels = new Set<number>();
  let [plain, undone, count] = [0, 0, 0];
  for (let i = 0; i < values.length; i += step, count++) {
    const value = values[i];
    if (!(value >= 0 && value <= 1)) return null;
    const own = value * 255;
    const coded = srgbFromLinear(value) * 255;
    if (Math.abs(own - Math.round(own)) <= OFF) plain += 1;
    if (Math.abs(coded - Math.round(coded)) <= OFF) undone += 1;
    levels.add(Math.round(coded));
  }
  if (levels.size < LEVELS) return null;
  if (plain >= SHARE * count) return 'display';
  return undone >= SHARE * count ? 'undone' : null;
}
