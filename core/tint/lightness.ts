/** A colour of the same hue, lighter or darker: by HSL (as CSS Color 4 has it) or by OKLCH (Ottosson 2020), whose lightness is what eyes see. */
import { clampChroma, converter, modeHsl, modeLrgb, modeOklab, modeOklch, modeRgb, useMode } from 'culori/fn';
import type { Rgb } from './stack.ts';

for (const mode of [modeRgb, modeLrgb, modeHsl, modeOklab, modeOklch]) useMode(mode as never);
const toHsl = converter('hsl');
const toOklch = converter('oklch');
const toLinear = converter('lrgb');

export type Lightness = 'hsl' | 'oklch';
const linear = ([r, g, b]: Rgb) => ({ mode: 'lrgb' as const, r, g, b });
const rgbOf = ({ r, g, b }: { r: number; g: number; b: number }): Rgb => [r, g, b].map((c) => Math.min(1, Math.max(0, c))) as Rgb; // prettier-ignore

/** 0–1. @param rgb linear Rec.709 */
export const lightnessOf = (rgb: Rgb, by: Lightness): number => (by === 'hsl' ? toHsl(linear(rgb)).l : toOklch(linear(rgb)).l); // prettier-ignore

/**
 * The same hue at another lightness; as colourful as it was where the display's colours go that far.
 * @param lightness 0–1
 * @returns linear Rec.709, 0–1
 */
export function atLightness(rgb: Rgb, by: Lightness, lightness: number): Rgb {
  if (by === 'hsl') return rgbOf(toLinear({ ...toHsl(linear(rgb)), l: lightness }));
  return rgbOf(toLinear(clampChroma({ ...toOklch(linear(rgb)), l: lightness }, 'oklch')));
}
