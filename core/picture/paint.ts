/**
 * Screens of display bytes from planes: only the pixels that are on screen are looked at. A screen is gathered from a
 * level of a pyramid first and painted then, so that each way of painting sees nothing but a row of values.
 *
 * @example
 * const spot = placed({ width: 700, height: 480, scale: 2, aspect: 1, x: 10, y: 10 }, window, 0);
 * paintColour(planes.map((plane) => gather(plane, spot)), null, spot, look, out);
 */
import { luminance } from '../data/colour.ts';
import type { Region } from '../data/picture.ts';
import { displayTable, entryOf, type Look } from './look.ts';
import { SPACES, toRec709 } from './spaces.ts';
import type { TransformId } from './transforms/registry.ts';
import { SCALE } from './view.ts';

/** What part of the frame a screen shows. */
export interface Screen {
  /** Pixels of the screen. */
  width: number;
  height: number;
  /** Screen pixels that a picture pixel takes, down. */
  scale: number;
  /** Width of a picture pixel by its height. */
  aspect: number;
  /** Where the frame's top left corner is on the screen. */
  x: number;
  y: number;
}

/** For each column and row of the screen the one of the plane that it shows; −1 beside it. */
export interface Placed {
  width: number;
  height: number;
  columns: Int32Array;
  rows: Int32Array;
  /** Columns of the plane. */
  stride: number;
}

/** @param window of the picture in the frame. @param level of its pyramid that is shown */
export function placed(screen: Screen, window: Region, level: number): Placed {
  const { width, height, scale, aspect, x, y } = screen;
  const along = (count: number, from: number, step: number, first: number, size: number) => {
    const out = new Int32Array(count);
    for (let i = 0; i < count; i++) {
      const at = Math.floor((i + 0.5 - from) / step) - first;
      out[i] = at < 0 || at >= size ? -1 : at >> level;
    }
    return out;
  };
  let stride = window.width;
  for (let l = 0; l < level; l++) stride = (stride + 1) >> 1;
  return {
    width,
    height,
    columns: along(width, x, scale * aspect, window.x, window.width),
    rows: along(height, y, scale, window.y, window.height),
    stride,
  };
}

/** The values of a plane that a screen shows; 0 beside it. */
export function gather(plane: ArrayLike<number>, { width, height, columns, rows, stride }: Placed): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    if (rows[y] < 0) continue;
    const from = rows[y] * stride;
    const to = y * width;
    for (let x = 0; x < width; x++) if (columns[x] >= 0) out[to + x] = plane[from + columns[x]];
  }
  return out;
}

/** Makes what lies beside the picture see-through. */
export function blankBeside({ width, height, columns, rows }: Placed, out: Uint8ClampedArray): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (rows[y] < 0 || columns[x] < 0) out[(y * width + x) * 4 + 3] = 0;
}

const NOT_FINITE = [255, 0, 255] as const;
/** Stripes, so that marks are told from colours of the picture by their form. */
const CLIPPED = [255, 122, 64] as const;
const NEGATIVE = [86, 150, 255] as const;
const STRIPE = 6;
const CHECKER = 8;
const GREYS = [96, 150] as const;

let last: { transform: TransformId; gamma: number; table: Uint8Array } | null = null;
function tableFor(transform: TransformId, gamma: number): Uint8Array {
  if (last?.transform !== transform || last.gamma !== gamma)
    last = { transform, gamma, table: displayTable(transform, gamma) };
  return last.table;
}

/** Middle grey, where stops are counted from. */
export const MIDDLE_GREY = 0.18;
/** Stops shown on either side of it. */
export const STOPS_SHOWN = 7;

/** Colour of a whole stop from middle grey, as the legend shows it. */
export function stopColour(stop: number): [number, number, number] {
  const at = ((Math.max(-STOPS_SHOWN, Math.min(STOPS_SHOWN, stop)) + STOPS_SHOWN) / (2 * STOPS_SHOWN)) * (SCALE.length - 1); // prettier-ignore
  const k = Math.min(SCALE.length - 2, Math.floor(at));
  const mixed = [0, 1, 2].map((c) => Math.round(SCALE[k][c] + (SCALE[k + 1][c] - SCALE[k][c]) * (at - k)));
  return mixed as [number, number, number];
}

/**
 * Writes opaque RGBA of colours; pixels that are no numbers are magenta.
 * @param colours red, green and blue as gathered; they are left as they are
 * @param alpha as gathered, or null
 */
export function paintColour(
  [r, g, b]: ArrayLike<number>[],
  alpha: ArrayLike<number> | null,
  { width, height }: { width: number; height: number },
  look: Look,
  out: Uint8ClampedArray,
): void {
  const table = tableFor(look.transform, look.gamma);
  const gain = 2 ** look.exposure;
  const { offset, marks } = look;
  const matrix = look.space === 'rec709' ? null : toRec709(SPACES[look.space].chromaticities);
  const stops = look.isInStops ? Array.from({ length: 2 * STOPS_SHOWN + 1 }, (_, i) => stopColour(i - STOPS_SHOWN)) : null; // prettier-ignore
  const value = new Float32Array(3);
  const bits = new Int32Array(value.buffer);
  const behind = look.behind !== 'nothing' && alpha !== null;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const o = i * 4;
      let red = r[i];
      let green = g[i];
      let blue = b[i];
      out[o + 3] = 255;
      if (red + green + blue - (red + green + blue) !== 0) {
        out[o] = NOT_FINITE[0];
        out[o + 1] = NOT_FINITE[1];
        out[o + 2] = NOT_FINITE[2];
        continue;
      }
      const isNegative = red < 0 || green < 0 || blue < 0;
      if (matrix) {
        const p = red;
        const q = green;
        red = matrix[0] * p + matrix[1] * q + matrix[2] * blue;
        green = matrix[3] * p + matrix[4] * q + matrix[5] * blue;
        blue = matrix[6] * p + matrix[7] * q + matrix[8] * blue;
      }
      if (look.solo !== 'colour') {
        if (look.solo === 'luminance') red = luminance(red, green, blue);
        else if (look.solo === 'green') red = green;
        else if (look.solo === 'blue') red = blue;
        else if (look.solo === 'alpha') red = alpha ? alpha[i] : 1;
        green = blue = red;
      }
      if (stops) {
        const stop = Math.round(Math.log2(Math.max(1e-12, luminance(red, green, blue) * gain + offset) / MIDDLE_GREY));
        const colour = stops[Math.max(-STOPS_SHOWN, Math.min(STOPS_SHOWN, stop)) + STOPS_SHOWN];
        out[o] = colour[0];
        out[o + 1] = colour[1];
        out[o + 2] = colour[2];
        continue;
      }
      value[0] = red * gain + offset;
      value[1] = green * gain + offset;
      value[2] = blue * gain + offset;
      red = table[entryOf(bits[0])];
      green = table[entryOf(bits[1])];
      blue = table[entryOf(bits[2])];
      if (behind) {
        const grey = look.behind === 'grey' ? 118 : GREYS[(Math.floor(x / CHECKER) + Math.floor(y / CHECKER)) & 1];
        const rest = (1 - Math.min(1, Math.max(0, alpha[i]))) * grey;
        red += rest;
        green += rest;
        blue += rest;
      }
      if (marks && (x + y) % STRIPE < STRIPE / 2) {
        const mark = isNegative ? NEGATIVE : value[0] >= 1 || value[1] >= 1 || value[2] >= 1 ? CLIPPED : null;
        if (mark) {
          red = mark[0];
          green = mark[1];
          blue = mark[2];
        }
      }
      out[o] = red;
      out[o + 1] = green;
      out[o + 2] = blue;
    }
}

/** Writes opaque RGBA of differences: nothing is black, less is blue, more is amber, full at `top` either way. */
export function paintSigned(values: ArrayLike<number>, top: number, out: Uint8ClampedArray): void {
  for (let i = 0; i < values.length; i++) {
    const at = Math.max(-1, Math.min(1, values[i] / top));
    const [r, g, b] = at < 0 ? [70, 130, 255] : [255, 170, 60];
    const share = Number.isNaN(at) ? 0 : Math.abs(at);
    out[i * 4] = r * share;
    out[i * 4 + 1] = g * share;
    out[i * 4 + 2] = b * share;
    out[i * 4 + 3] = 255;
  }
}
