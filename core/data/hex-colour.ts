/** Colours as people type them: sRGB in hexadecimal, from and to linear Rec.709, which has the same primaries (IEC 61966-2-1). */
import { linearFromSrgb, srgbFromLinear } from './colour.ts';

const byte = (linear: number): string =>
  Math.round(255 * srgbFromLinear(Math.min(1, Math.max(0, linear))))
    .toString(16)
    .padStart(2, '0');

/** "#ffd0a0"; values outside 0–1 are clipped. @param rgb linear, three of them */
export const hexOf = (rgb: readonly number[]): string => `#${rgb.map(byte).join('')}`;

/**
 * Linear values of "#fda", "ffddaa" and "#ffddaa"; null where it is none of these.
 *
 * @example
 * linearOfHex('#808080'); // [0.2158…, 0.2158…, 0.2158…]
 */
export function linearOfHex(text: string): [number, number, number] | null {
  const found = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(text.trim())?.[1];
  if (!found) return null;
  const wide = found.length === 3 ? [...found].map((digit) => digit + digit).join('') : found;
  const part = (at: number) => linearFromSrgb(parseInt(wide.slice(at, at + 2), 16) / 255);
  return [part(0), part(2), part(4)];
}
