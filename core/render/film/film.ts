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
 * const [bytes, time] = [packFilm(film), packTime(film)];
 */
import type { Region } from '../../data/picture.ts';
import { luminance } from '../../data/colour.ts';
import { BRIGHTEST, LIGHT_PASS_COUNT, meansOf, NO_EXTRAS, type FilmLayout } from './passes.ts';

export interface Film {
  region: Region;
  /** Groups that every pixel has that is not done earlier (adaptive sampling). */
  groups: number;
  /** Numbers of a pixel's means. */
  width: number;
  /** `width` floats a pixel. */
  means: Float32Array;
  /** Per light pass: sum of squared deviations of the group luminances from their mean. */
  moments: Float32Array;
  /** The same for each channel of each light pass; empty unless the layout asks for it. */
  channelMoments: Float32Array;
  /** Groups folded into each pixel. */
  counts: Float32Array;
  /** Groups after which a pixel is done; those that decided so are not in the picture. 0 until decided. */
  wanted: Float32Array;
  /** Glass faces that a straight path along the first sample's camera ray passes. */
  crossings: Float32Array;
  /** Share of the pixel that ink lines cover; empty unless the layout asks for it. */
  lines: Float32Array;
  /** Object and material + 1 that most of the first group's samples met first; 0 for none. */
  ids: Float32Array;
  /** See `BRIGHTEST`. */
  brightest: Float32Array;
  /** Microseconds spent, by the clock the host handed in; the only numbers that are not the same every time, and packed apart for it. */
  time: Float32Array;
}

const PLANES = [
  'means',
  'moments',
  'channelMoments',
  'counts',
  'wanted',
  'crossings',
  'lines',
  'ids',
  'brightest',
  'time',
] as const;
type Plane = (typeof PLANES)[number];

/** What a film has that not all have, and the bit of each where it is packed. */
interface Extras {
  channelErrors: boolean;
  lines: boolean;
}
const HAS_CHANNEL_ERRORS = 1;
const HAS_LINES = 2;
const extrasOf = (layout: FilmLayout): Extras => ({
  channelErrors: layout.channelErrors,
  lines: layout.lines !== null,
});

function floatsOf(plane: Plane, width: number, extras: Extras): number {
  switch (plane) {
    case 'means':
      return width;
    case 'moments':
      return LIGHT_PASS_COUNT;
    case 'channelMoments':
      return extras.channelErrors ? LIGHT_PASS_COUNT * 3 : 0;
    case 'lines':
      return extras.lines ? 1 : 0;
    case 'ids':
      return 2;
    case 'brightest':
      return BRIGHTEST;
    default:
      return 1;
  }
}

/** Bytes that a film takes for one pixel. */
export const filmBytes = (layout: FilmLayout): number =>
  4 * PLANES.reduce((sum, plane) => sum + floatsOf(plane, meansOf(layout), extrasOf(layout)), 0);

export function createFilm(region: Region, layout: FilmLayout = NO_EXTRAS): Film {
  return filmOver(region, 0, meansOf(layout), extrasOf(layout), (floats) => new Float32Array(floats));
}

function filmOver(
  region: Region,
  groups: number,
  width: number,
  extras: Extras,
  take: (floats: number) => Float32Array,
): Film {
  const pixels = region.width * region.height;
  const planes = Object.fromEntries(PLANES.map((plane) => [plane, take(pixels * floatsOf(plane, width, extras))]));
  return { region, groups, width, ...(planes as Record<Plane, Float32Array>) };
}

/**
 * Folds one group into a pixel.
 * @param group the group's means, as many doubles as the film is wide
 */
export function foldGroup(film: Film, pixel: number, group: Float64Array): void {
  const { means, moments, channelMoments, width } = film;
  const hasChannels = channelMoments.length > 0;
  const n = ++film.counts[pixel];
  const m = pixel * width;
  for (let p = 0; p < LIGHT_PASS_COUNT; p++) {
    const o = m + p * 3;
    const g = p * 3;
    // What has seen no light yet stays as it is: most passes of most pixels.
    if (group[g] === 0 && group[g + 1] === 0 && group[g + 2] === 0 && means[o] === 0 && means[o + 1] === 0 && means[o + 2] === 0) continue; // prettier-ignore
    const before = luminance(means[o], means[o + 1], means[o + 2]);
    if (hasChannels)
      for (let c = 0; c < 3; c++) {
        const off = group[g + c] - means[o + c];
        channelMoments[(pixel * LIGHT_PASS_COUNT + p) * 3 + c] += off * (off - off / n);
      }
    means[o] += (group[g] - means[o]) / n;
    means[o + 1] += (group[g + 1] - means[o + 1]) / n;
    means[o + 2] += (group[g + 2] - means[o + 2]) / n;
    const y = luminance(group[g], group[g + 1], group[g + 2]);
    const after = before + (y - before) / n;
    moments[pixel * LIGHT_PASS_COUNT + p] += (y - before) * (y - after);
  }
  for (let k = LIGHT_PASS_COUNT * 3; k < width; k++)
    if (group[k] !== means[m + k]) means[m + k] += (group[k] - means[m + k]) / n;
}

/** Standard error of a light pass's mean luminance; 0 below two groups, when it cannot be known. */
export function standardError(film: Film, pixel: number, pass: number): number {
  const n = film.counts[pixel];
  return n < 2 ? 0 : Math.sqrt(film.moments[pixel * LIGHT_PASS_COUNT + pass] / (n * (n - 1)));
}

/** The same of one channel, 0–2; the layout must have asked for errors per channel. */
export function channelError(film: Film, pixel: number, pass: number, c: number): number {
  const n = film.counts[pixel];
  const moment = film.channelMoments[(pixel * LIGHT_PASS_COUNT + pass) * 3 + c];
  return n < 2 ? 0 : Math.sqrt(moment / (n * (n - 1)));
}

const MAGIC = 0x334d4c46; // "FLM3"
/** Films that were packed with their time, as its last plane. */
const MAGIC_WITH_TIME = 0x324d4c46; // "FLM2"
const PACKED = PLANES.filter((plane) => plane !== 'time');
const HEADER = 8;

/**
 * The film as bytes, all but its time: 8 little-endian 32-bit words (magic, x, y, width, height, groups, means a pixel,
 * bits of what not all films have), then the planes. The same groups are the same bytes, whoever rendered them.
 */
export function packFilm(film: Film): Uint8Array {
  const { region } = film;
  const floats = PACKED.reduce((sum, plane) => sum + film[plane].length, HEADER);
  const words = new Uint32Array(floats);
  words.set([
    MAGIC,
    region.x,
    region.y,
    region.width,
    region.height,
    film.groups,
    film.width,
    (film.channelMoments.length ? HAS_CHANNEL_ERRORS : 0) + (film.lines.length ? HAS_LINES : 0),
  ]);
  const out = new Float32Array(words.buffer);
  let at = HEADER;
  for (const plane of PACKED) {
    out.set(film[plane], at);
    at += film[plane].length;
  }
  return new Uint8Array(words.buffer);
}

/** What the film's pixels took, as little-endian 32-bit floats. */
export const packTime = ({ time }: Film): Uint8Array => new Uint8Array(time.slice().buffer, 0, time.byteLength);

/**
 * @param time as `packTime` gave it; without it no pixel took any
 * @throws RangeError when the bytes are not a whole film
 */
export function unpackFilm(bytes: Uint8Array, time: Uint8Array | null = null): Film {
  if (bytes.byteLength < HEADER * 4) throw new RangeError(`film of ${bytes.byteLength} bytes has no whole header`);
  const copy = bytes.slice().buffer;
  const [magic, x, y, width, height, groups, perPixel, bits] = new Uint32Array(copy, 0, HEADER);
  const pixels = width * height;
  const extras = { channelErrors: (bits & HAS_CHANNEL_ERRORS) !== 0, lines: (bits & HAS_LINES) !== 0 };
  const planes = magic === MAGIC_WITH_TIME ? PLANES : PACKED;
  const need = (HEADER + planes.reduce((sum, plane) => sum + pixels * floatsOf(plane, perPixel, extras), 0)) * 4;
  if ((magic !== MAGIC && magic !== MAGIC_WITH_TIME) || pixels >= 2 ** 28 || bytes.byteLength !== need)
    throw new RangeError(`film of ${bytes.byteLength} bytes is not whole`);
  let at = HEADER * 4;
  const film = filmOver({ x, y, width, height }, groups, perPixel, extras, (floats) => {
    // The time is the last plane, and beyond the end where it was packed apart.
    if (at + floats * 4 > copy.byteLength) return new Float32Array(floats);
    const plane = new Float32Array(copy, at, floats);
    at += floats * 4;
    return plane;
  });
  if (time?.byteLength === pixels * 4) film.time.set(new Float32Array(time.slice().buffer));
  return film;
}
