/** Luminance of linear Rec.709 values. Source: ITU-R BT.709-6, item 3.2. */
export function luminance(r: number, g: number, b: number): number {
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** sRGB display value (0–1) of a linear value (0–1). Source: IEC 61966-2-1. */
export function srgbFromLinear(linear: number): number {
  return linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
}

/** Linear value of an sRGB display value (0–1). Source: IEC 61966-2-1. */
export function linearFromSrgb(display: number): number {
  return display <= 0.04045 ? display / 12.92 : ((display + 0.055) / 1.055) ** 2.4;
}
