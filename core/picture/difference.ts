/**
 * One picture less another, pixel by pixel over the first one's window, in four ways.
 *
 * @example
 * const planes = differencePlanes('absolute', a, b);   // three planes over a's window
 */
import { luminance } from '../data/colour.ts';
import type { Colours } from './compare.ts';

export const DIFFERENCES = {
  absolute: { name: 'Absolute', unit: '', told: '|B − A| of each channel' },
  relative: { name: 'Relative', unit: '%', told: '(B − A) by A, of luminance' },
  stops: { name: 'In stops', unit: 'stops', told: 'log₂ B/A of luminance' },
} as const;
export type DifferenceKind = keyof typeof DIFFERENCES;

/** Luminance that both are raised by where they are divided, so that black stays black. */
const FLOOR = 1e-4;

/** @returns three planes for `absolute`, one signed one for the others; NaN where B has no pixel */
export function differencePlanes(kind: DifferenceKind, a: Colours, b: Colours): Float32Array[] {
  const size = a.width * a.height;
  const out = Array.from({ length: kind === 'absolute' ? 3 : 1 }, () => new Float32Array(size));
  for (let y = 0; y < a.height; y++)
    for (let x = 0; x < a.width; x++) {
      const i = y * a.width + x;
      const [bx, by] = [x + a.x - b.x, y + a.y - b.y];
      if (bx < 0 || by < 0 || bx >= b.width || by >= b.height) {
        for (const plane of out) plane[i] = NaN;
        continue;
      }
      const j = by * b.width + bx;
      if (kind === 'absolute') for (let c = 0; c < 3; c++) out[c][i] = Math.abs(b.planes[c][j] - a.planes[c][i]);
      else {
        const p = luminance(a.planes[0][i], a.planes[1][i], a.planes[2][i]);
        const q = luminance(b.planes[0][j], b.planes[1][j], b.planes[2][j]);
        out[0][i] = kind === 'relative' ? (q - p) / Math.max(FLOOR, Math.abs(p)) : Math.log2((Math.max(0, q) + FLOOR) / (Math.max(0, p) + FLOOR)); // prettier-ignore
      }
    }
  return out;
}
