/**
 * Fireflies: single pixels that stand far above their neighbourhood, from light that a sample found by chance. Told from
 * thin highlights, edges, small lights with a filter's falloff, and texture by what is around them: a highlight has
 * bright neighbours, texture stands in the albedo as well, and in heavy grain the neighbourhood itself is wide.
 *
 * @example
 * const found = findFireflies({ luminance, width, height, albedo });
 * found.pixels.length;   // each with its excess over the neighbourhood in stops
 */
import { srgbFromLinear } from '../data/colour.ts';
import { boostedDisplay } from '../data/grain.ts';

export interface FireflyInput {
  /** Linear, row-major. */
  luminance: ArrayLike<number>;
  width: number;
  height: number;
  /** Luminance of the albedo pass, where there is one: bright dots of a texture are in it, too. */
  albedo?: ArrayLike<number> | null;
}

export interface Firefly {
  x: number;
  y: number;
  /** Above the median of its neighbourhood. */
  stops: number;
}

export interface FoundFireflies {
  pixels: Firefly[];
  /** A byte a pixel. */
  mask: Uint8Array;
  /** Share of the picture's light that is in them beyond their neighbourhood. */
  energy: number;
}

/** Stops above the second brightest neighbour: one bright neighbour may be a firefly itself. */
const ABOVE_NEIGHBOURS = 2;
/** Stops above the median of the 24 pixels around. */
const ABOVE_MEDIAN = 2;
/** So many robust deviations of their logarithms, beyond which grain does not reach. */
const DEVIATIONS = 6;
/** Linear middle grey, common practice. */
const GREY = 0.18;
/** Display steps, with or without the shadow boost, from which one is seen. */
const LEAST_SEEN = 24;
/** Stops that an albedo may explain of it. */
const TEXTURE = 1;
const RADIUS = 2;
/** Logarithms end here: a stop below the 24th below white is black. */
const BLACK = 2 ** -24;

export function findFireflies({ luminance, width, height, albedo = null }: FireflyInput): FoundFireflies {
  const mask = new Uint8Array(width * height);
  const pixels: Firefly[] = [];
  const factor = 2 ** ABOVE_NEIGHBOURS;
  let excess = 0;
  let light = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const value = luminance[i];
      if (value - value !== 0) continue;
      light += Math.max(0, value);
      // Most pixels end here, at the first two neighbours that are bright enough. Looked at in `stopsOut` instead, it takes twice as long.
      const isInside = x > 0 && y > 0 && x < width - 1 && y < height - 1;
      if (isInside && isAmongTwo(luminance, i, width, value / factor)) continue;
      const stops = stopsOut(luminance, width, height, x, y);
      if (stops === 0 || (albedo && isTexture(albedo, width, height, x, y, stops))) continue;
      mask[i] = 1;
      pixels.push({ x, y, stops });
      excess += value - value / 2 ** stops;
    }
  return { pixels, mask, energy: light > 0 ? excess / light : 0 };
}

/**
 * Whether a pixel or one of the eight around it stands out like a firefly, by its surroundings alone.
 *
 * @param luminance linear, row-major. @param i of the pixel in it
 */
export function isByFirefly(luminance: ArrayLike<number>, width: number, height: number, i: number): boolean {
  const [x, y] = [i % width, Math.floor(i / width)];
  const factor = 2 ** ABOVE_NEIGHBOURS;
  for (let py = Math.max(0, y - 1); py <= Math.min(height - 1, y + 1); py++)
    for (let px = Math.max(0, x - 1); px <= Math.min(width - 1, x + 1); px++) {
      const at = py * width + px;
      const isInside = px > 0 && py > 0 && px < width - 1 && py < height - 1;
      if (isInside && isAmongTwo(luminance, at, width, luminance[at] / factor)) continue;
      if (stopsOut(luminance, width, height, px, py) > 0) return true;
    }
  return false;
}

/** Logarithms around a pixel, written anew for each that is looked at closely. */
const AROUND = new Float64Array((2 * RADIUS + 1) ** 2 - 1);

/** Stops that a pixel stands above the median around it; 0 where it is no firefly by what is around. */
function stopsOut(luminance: ArrayLike<number>, width: number, height: number, x: number, y: number): number {
  const value = luminance[y * width + x];
  const factor = 2 ** ABOVE_NEIGHBOURS;
  if (!(value < Infinity && value > factor * secondNeighbour(luminance, width, height, x, y))) return 0;
  if (endsLine(luminance, width, height, x, y, value / factor)) return 0;
  const median = neighbourhood(luminance, width, height, x, y, AROUND);
  const stops = Math.log2(value) - median;
  if (stops < ABOVE_MEDIAN || stops < DEVIATIONS * 1.4826 * deviation(AROUND, median)) return 0;
  return seen(2 ** median, value) < LEAST_SEEN ? 0 : stops;
}

/**
 * In the shadows by the boost, in the lights without it, where the boost has long clipped both; where surroundings are brighter than
 * grey, with exposure turned down until they are grey: a display clips a firefly among whites, and no filter, denoiser or glow does.
 */
function seen(usual: number, value: number): number {
  const exposure = Math.min(1, GREY / usual);
  return Math.max(boostedDisplay(value) - boostedDisplay(usual), display(value * exposure) - display(usual * exposure));
}
const display = (y: number): number => 255 * srgbFromLinear(Math.min(1, y));

/** Mirrored at the edges, so that a line that ends there is still a line. */
const mirrored = (at: number, size: number): number =>
  Math.max(0, Math.min(size - 1, at < 0 ? -at : at >= size ? 2 * size - 2 - at : at));

/** Whether two of the eight neighbours of a pixel inside the picture are as bright as `least`, looked at nearest first. */
function isAmongTwo(plane: ArrayLike<number>, i: number, width: number, least: number): boolean {
  if (!(least > 0)) return false;
  let found = plane[i - 1] >= least ? 1 : 0;
  if (plane[i + 1] >= least) found++;
  if (found > 1) return true;
  if (plane[i - width] >= least) found++;
  if (found > 1) return true;
  if (plane[i + width] >= least) found++;
  if (found > 1) return true;
  for (let k = 0; k < 4; k++) if (plane[i + (k & 1 ? 1 : -1) + (k & 2 ? width : -width)] >= least) found++;
  return found > 1;
}

/** Second brightest of the eight neighbours; those that are no numbers count as dark. */
function secondNeighbour(plane: ArrayLike<number>, width: number, height: number, x: number, y: number): number {
  let [first, second] = [0, 0];
  for (let dy = -1; dy <= 1; dy++) {
    const row = mirrored(y + dy, height) * width;
    for (let dx = -1; dx <= 1; dx++) {
      if (dx === 0 && dy === 0) continue;
      const other = plane[row + mirrored(x + dx, width)];
      if (other > first) {
        second = first;
        first = other;
      } else if (other > second) second = other;
    }
  }
  return second;
}

/** Whether its one bright neighbour has another one besides: a line that ends here. */
function endsLine(
  plane: ArrayLike<number>,
  width: number,
  height: number,
  x: number,
  y: number,
  bright: number,
): boolean {
  // prettier-ignore
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      if (dx === 0 && dy === 0) continue;
      const [px, py] = [mirrored(x + dx, width), mirrored(y + dy, height)];
      if (plane[py * width + px] > bright) return secondNeighbour(plane, width, height, px, py) > bright;
    }
  return false;
}

/** Fills `out` with the logarithms around a pixel. @returns their median */
function neighbourhood(
  plane: ArrayLike<number>,
  width: number,
  height: number,
  x: number,
  y: number,
  out: Float64Array,
): number {
  // prettier-ignore
  let k = 0;
  for (let dy = -RADIUS; dy <= RADIUS; dy++)
    for (let dx = -RADIUS; dx <= RADIUS; dx++) {
      if (dx === 0 && dy === 0) continue;
      const value = plane[mirrored(y + dy, height) * width + mirrored(x + dx, width)];
      out[k++] = Math.log2(value > BLACK ? value : BLACK);
    }
  return middle(out);
}

const middle = (values: Float64Array): number => {
  const sorted = Float64Array.from(values).sort();
  return (sorted[(sorted.length - 1) >> 1] + sorted[sorted.length >> 1]) / 2;
};

/** Median distance from the median. Source: Rousseeuw & Croux 1993. */
const deviation = (values: Float64Array, median: number): number => middle(values.map((v) => Math.abs(v - median)));

function isTexture(
  albedo: ArrayLike<number>,
  width: number,
  height: number,
  x: number,
  y: number,
  stops: number,
): boolean {
  // prettier-ignore
  const around = new Float64Array((2 * RADIUS + 1) ** 2 - 1);
  const median = neighbourhood(albedo, width, height, x, y, around);
  const own = albedo[y * width + x];
  return own > BLACK && Math.log2(own) - median > stops - TEXTURE;
}

/** The pass that carries a firefly: the one with the most light beyond its neighbourhood there. */
export function guiltyPass(
  { x, y }: { x: number; y: number },
  passes: Map<string, ArrayLike<number>>,
  width: number,
  height: number,
): string | null {
  const around = new Float64Array((2 * RADIUS + 1) ** 2 - 1);
  let [most, guilty]: [number, string | null] = [0, null];
  for (const [name, plane] of passes) {
    const beyond = plane[y * width + x] - 2 ** neighbourhood(plane, width, height, x, y, around);
    if (beyond > most) [most, guilty] = [beyond, name];
  }
  return guilty;
}

/** A pixel may move so far from frame to frame and still be the same glint. */
const REACH = 1;
/** A glint has at least this share of its light in the frames beside. */
const LASTING = 0.25;

/**
 * Those that are not in the frame before or after: a firefly does not come again, a glint does.
 * @param beside luminances of frames next to it, of the same size
 */
export function notLasting(
  found: Firefly[],
  luminance: ArrayLike<number>,
  beside: ArrayLike<number>[],
  width: number,
  height: number,
): Firefly[] {
  // prettier-ignore
  return found.filter(({ x, y }) => {
    const value = luminance[y * width + x];
    return beside.every((other) => {
      for (let dy = -REACH; dy <= REACH; dy++)
        for (let dx = -REACH; dx <= REACH; dx++)
          if (other[mirrored(y + dy, height) * width + mirrored(x + dx, width)] > LASTING * value) return false;
      return true;
    });
  });
}
