/**
 * From linear values to what a display shows. Derived from a picture every time, never stored.
 *
 * @example
 * const bytes = new Uint8ClampedArray(width * height * 4);
 * viewColour(r, g, b, { exposure: 2, gamma: 1.25 }, bytes);
 */
import { srgbFromLinear } from '../data/colour.ts';

export interface View {
  /** Stops. */
  exposure: number;
  /** Applied on top of the sRGB curve: display = sRGB(x)^(1/gamma); 1 leaves it alone. */
  gamma: number;
}

/** The trade's look for grain in the shadows: two stops up, gamma 1.25. */
export const SHADOW_BOOST: View = { exposure: 2, gamma: 1.25 };
export const PLAIN_VIEW: View = { exposure: 0, gamma: 1 };

/** Entries of a curve's table over 0–1; fine enough that no 8-bit step is skipped at the steep end. */
const STEPS = 65536;

/** Display bytes of linear values n / (STEPS − 1). */
function curveTable(gamma: number): Uint8Array {
  const table = new Uint8Array(STEPS);
  for (let i = 0; i < STEPS; i++) table[i] = Math.round(255 * srgbFromLinear(i / (STEPS - 1)) ** (1 / gamma));
  return table;
}

let lastGamma = NaN;
let lastTable: Uint8Array = new Uint8Array(0);
function tableFor(gamma: number): Uint8Array {
  if (gamma !== lastGamma) {
    lastTable = curveTable(gamma);
    lastGamma = gamma;
  }
  return lastTable;
}

const NOT_FINITE = [255, 0, 255] as const;

/** Writes opaque RGBA; NaN and infinite pixels are magenta, so that they cannot be overlooked. */
export function viewColour(
  r: ArrayLike<number>,
  g: ArrayLike<number>,
  b: ArrayLike<number>,
  { exposure, gamma }: View,
  out: Uint8ClampedArray,
): void {
  const table = tableFor(gamma);
  const scale = 2 ** exposure * (STEPS - 1);
  const top = STEPS - 1;
  for (let i = 0; i < r.length; i++) {
    const o = i * 4;
    const [x, y, z] = [r[i] * scale, g[i] * scale, b[i] * scale];
    if (Number.isFinite(x + y + z)) {
      out[o] = table[x <= 0 ? 0 : x >= top ? top : Math.round(x)];
      out[o + 1] = table[y <= 0 ? 0 : y >= top ? top : Math.round(y)];
      out[o + 2] = table[z <= 0 ? 0 : z >= top ? top : Math.round(z)];
    } else out.set(NOT_FINITE, o);
    out[o + 3] = 255;
  }
}

/** Writes opaque RGBA of unit directions: −1 to 1 as black to full. */
export function viewDirection(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  z: ArrayLike<number>,
  out: Uint8ClampedArray,
): void {
  for (let i = 0; i < x.length; i++) {
    out[i * 4] = 127.5 * (x[i] + 1);
    out[i * 4 + 1] = 127.5 * (y[i] + 1);
    out[i * 4 + 2] = 127.5 * (z[i] + 1);
    out[i * 4 + 3] = 255;
  }
}

/** Least value and size of what each channel spans. */
export const spansOf = (channels: ArrayLike<number>[]): { low: number; size: number }[] =>
  channels.map((plane) => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < plane.length; i++) {
      if (plane[i] < low) low = plane[i];
      if (plane[i] > high) high = plane[i];
    }
    return { low, size: high - low || 1 };
  });

/** Writes opaque RGBA of places, each channel between the least and the greatest value of the picture. */
export function viewPlace(channels: ArrayLike<number>[], out: Uint8ClampedArray, spans = spansOf(channels)): void {
  for (let i = 0; i < channels[0].length; i++) {
    for (let c = 0; c < 3; c++)
      out[i * 4 + c] = c < channels.length ? (255 * (channels[c][i] - spans[c].low)) / spans[c].size : 0;
    out[i * 4 + 3] = 255;
  }
}

/** Writes opaque RGBA of whole numbers, each in a flat colour of its own; 0 is nothing and black. */
export function viewIds(ids: ArrayLike<number>, out: Uint8ClampedArray): void {
  for (let i = 0; i < ids.length; i++) {
    // Even steps round the colour circle by the golden angle, in three brightnesses.
    const id = ids[i];
    const turn = (id * 0.618034) % 1;
    const light = 0.55 + 0.2 * (id % 3);
    for (let c = 0; c < 3; c++) {
      const wave = 0.5 + 0.5 * Math.cos(2 * Math.PI * (turn - c / 3));
      out[i * 4 + c] = id === 0 ? 0 : 255 * light * (0.25 + 0.75 * wave);
    }
    out[i * 4 + 3] = 255;
  }
}

/** Stops of a false-colour scale from nothing to much, dark to light, so that it reads in grey as well. */
export const SCALE: readonly (readonly [number, number, number])[] = [
  [20, 20, 24],
  [52, 38, 92],
  [120, 44, 112],
  [190, 66, 84],
  [234, 124, 56],
  [250, 196, 84],
  [252, 244, 196],
];

/** Writes opaque RGBA of values 0–`top` on the false-colour scale; what is above has its last colour. */
export function viewScale(values: ArrayLike<number>, top: number, out: Uint8ClampedArray): void {
  const last = SCALE.length - 1;
  for (let i = 0; i < values.length; i++) {
    const at = top > 0 ? Math.min(1, Math.max(0, values[i] / top)) * last : 0;
    const k = Math.min(last - 1, Math.floor(at));
    const f = at - k;
    for (let c = 0; c < 3; c++) out[i * 4 + c] = SCALE[k][c] * (1 - f) + SCALE[k + 1][c] * f;
    out[i * 4 + 3] = 255;
  }
}
