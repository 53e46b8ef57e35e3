/**
 * A film of one tile: for each pixel and each value the mean over sample groups, and for the light
 * passes also the second moment of the group luminances.
 *
 * Groups are folded in one at a time and every stored number is rounded to 32 bits after each, so the
 * bits depend on the groups alone and not on when a render was stopped, saved and continued.
 * Moments are merged after Chan, Golub & LeVeque 1983, not as sums of squares.
 *
 * @example
 * const film = createFilm({ x: 0, y: 0, width: 32, height: 32 });
 * renderGroups(scene, settings, film, 8);   // 8 groups of 4 samples
 * const { bytes } = packFilm(film);
 */
import type { Region } from '../data/picture.ts';
import { luminance } from '../data/colour.ts';
import { LIGHT_PASS_COUNT, MEANS } from './passes.ts';

export interface Film {
  region: Region;
  /** Groups folded in so far. */
  groups: number;
  /** `MEANS` floats a pixel. */
  means: Float32Array;
  /** Per light pass: sum of squared deviations of the group luminances from their mean. */
  moments: Float32Array;
  /** Per pixel: glass faces that a straight look along the first sample's camera ray passes. */
  crossings: Float32Array;
}

export function createFilm(region: Region): Film {
  const pixels = region.width * region.height;
  return {
    region,
    groups: 0,
    means: new Float32Array(pixels * MEANS),
    moments: new Float32Array(pixels * LIGHT_PASS_COUNT),
    crossings: new Float32Array(pixels),
  };
}

/**
 * Folds one group into a pixel.
 * @param group the group's means, `MEANS` doubles
 * @param n how many groups there are with this one
 */
export function foldGroup(film: Film, pixel: number, group: Float64Array, n: number): void {
  const { means, moments } = film;
  const m = pixel * MEANS;
  for (let p = 0; p < LIGHT_PASS_COUNT; p++) {
    const o = m + p * 3;
    const g = p * 3;
    const before = luminance(means[o], means[o + 1], means[o + 2]);
    means[o] += (group[g] - means[o]) / n;
    means[o + 1] += (group[g + 1] - means[o + 1]) / n;
    means[o + 2] += (group[g + 2] - means[o + 2]) / n;
    const y = luminance(group[g], group[g + 1], group[g + 2]);
    const after = before + (y - before) / n;
    moments[pixel * LIGHT_PASS_COUNT + p] += (y - before) * (y - after);
  }
  for (let k = LIGHT_PASS_COUNT * 3; k < MEANS; k++) means[m + k] += (group[k] - means[m + k]) / n;
}

/** Standard error of a light pass's mean luminance; 0 below two groups, when it cannot be known. */
export function standardError(film: Film, pixel: number, pass: number): number {
  const n = film.groups;
  return n < 2 ? 0 : Math.sqrt(film.moments[pixel * LIGHT_PASS_COUNT + pass] / (n * (n - 1)));
}

const MAGIC = 0x314d4c46; // "FLM1"
const HEADER = 8;

/** The film as bytes: 8 little-endian 32-bit words (magic, x, y, width, height, groups, 0, 0), then the planes. */
export function packFilm(film: Film): Uint8Array {
  const { region, means, moments, crossings } = film;
  const words = new Uint32Array(HEADER + means.length + moments.length + crossings.length);
  words.set([MAGIC, region.x, region.y, region.width, region.height, film.groups]);
  const floats = new Float32Array(words.buffer);
  floats.set(means, HEADER);
  floats.set(moments, HEADER + means.length);
  floats.set(crossings, HEADER + means.length + moments.length);
  return new Uint8Array(words.buffer);
}

/** Throws a RangeError when the bytes are not a whole film. */
export function unpackFilm(bytes: Uint8Array): Film {
  if (bytes.byteLength < HEADER * 4) throw new RangeError(`film of ${bytes.byteLength} bytes has no whole header`);
  const copy = bytes.slice().buffer;
  const [magic, x, y, width, height, groups] = new Uint32Array(copy, 0, HEADER);
  const film = magic === MAGIC && width * height < 2 ** 28 ? { region: { x, y, width, height }, groups } : null;
  const pixels = width * height;
  const need = (HEADER + pixels * (MEANS + LIGHT_PASS_COUNT + 1)) * 4;
  if (!film || bytes.byteLength !== need) throw new RangeError(`film of ${bytes.byteLength} bytes is not whole`);
  const start = HEADER * 4;
  return {
    ...film,
    means: new Float32Array(copy, start, pixels * MEANS),
    moments: new Float32Array(copy, start + pixels * MEANS * 4, pixels * LIGHT_PASS_COUNT),
    crossings: new Float32Array(copy, start + pixels * (MEANS + LIGHT_PASS_COUNT) * 4, pixels),
  };
}
