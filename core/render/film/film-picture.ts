/** Films → a Picture with named channels, pass by pass. */
import { createPicture, type Picture, type Region } from '../../data/picture.ts';
import { standardError, type Film } from './film.ts';
import { passList, type PassInfo } from './pass-list.ts';
import {
  BEAUTY,
  BRIGHTEST,
  BRIGHTEST_PARTS,
  CUTS,
  EMISSION,
  LIGHT_PASSES,
  MEAN_ALBEDO,
  MEAN_CLAMPED,
  MEAN_COVERAGE,
  MEAN_CUT,
  MEAN_DEPTH,
  MEAN_MATERIAL,
  MEAN_MOTION,
  MEAN_NORMAL,
  MEAN_OBJECT,
  MEAN_POSITION,
  MEAN_RAYS,
  MEAN_UV,
  MEANS,
  NO_EXTRAS,
  occlusionAt,
  shadowsAt,
  type FilmLayout,
} from './passes.ts';
import { GROUP } from './random.ts';

/** Gives one channel value of one pixel of a film. */
type Reader = (film: Film, pixel: number) => number;

const mean =
  (slot: number): Reader =>
  (film, i) =>
    film.means[i * film.width + slot];

/** Means over the samples that met something. */
const met =
  (slot: number): Reader =>
  (film, i) => {
    const coverage = film.means[i * film.width + MEAN_COVERAGE];
    return coverage > 0 ? film.means[i * film.width + slot] / coverage : 0;
  };

/**
 * A light pass with ink lines over it: what they cover of it is gone, and the ink itself is emission, so that the passes
 * add up to the beauty.
 * @param ink colour of the channel
 */
const inked =
  (light: Reader, pass: number, ink: number): Reader =>
  (film, i) => {
    const covered = film.lines[i];
    return light(film, i) * (1 - covered) + (pass === BEAUTY || pass === EMISSION ? ink * covered : 0);
  };

/** Readers of every channel, in the order of `passList`. */
function readersOf(layout: FilmLayout): Map<string, Reader> {
  const out = new Map<string, Reader>();
  const put = (channels: string[], read: (k: number) => Reader) => channels.forEach((c, k) => out.set(c, read(k)));
  const list = passList(layout);
  const channels = (name: string) => list.find((pass) => pass.name === name)!.channels;
  const ink = layout.lines?.ink;
  const over = (light: Reader, pass: number, c: number | null) =>
    ink ? inked(light, pass, c === null ? 0 : ink[c]) : light;
  LIGHT_PASSES.forEach((pass, p) => {
    put(channels(pass), (c) => over(mean(p * 3 + c), p, c));
    out.set(
      `error.${pass}`,
      over((film, i) => standardError(film, i, p), p, null),
    );
  });
  CUTS.forEach((cut, k) => out.set(`cut.${cut}`, mean(MEAN_CUT + k)));
  const groupLights = list.filter((pass) => pass.group === 'Light groups');
  groupLights.forEach((pass, k) => put(pass.channels, (c) => over(mean(MEANS + k * 3 + c), -1, c)));
  layout.shadows.forEach((light, k) => out.set(`shadow.${light}`, met(shadowsAt(layout) + k)));
  if (layout.occlusion) out.set('occlusion', met(occlusionAt(layout)));
  if (layout.lines) out.set('lines', (film, i) => film.lines[i]);
  out.set('coverage', mean(MEAN_COVERAGE));
  out.set('depth', met(MEAN_DEPTH));
  put(channels('position'), (c) => met(MEAN_POSITION + c));
  put(channels('normal'), (c) => met(MEAN_NORMAL + c));
  put(channels('uv'), (c) => met(MEAN_UV + c));
  put(channels('albedo'), (c) => met(MEAN_ALBEDO + c));
  put(channels('motion'), (c) => met(MEAN_MOTION + c));
  out.set('object', (film, i) => film.ids[i * 2]);
  out.set('object.coverage', mean(MEAN_OBJECT));
  out.set('material', (film, i) => film.ids[i * 2 + 1]);
  out.set('material.coverage', mean(MEAN_MATERIAL));
  out.set('crossings', (film, i) => film.crossings[i]);
  out.set('samples', (film, i) => film.counts[i] * GROUP);
  out.set('cost', mean(MEAN_RAYS));
  out.set('time', (film, i) => film.time[i]);
  out.set('clamped', mean(MEAN_CLAMPED));
  BRIGHTEST_PARTS.forEach((part, k) => out.set(`brightest.${part}`, (film, i) => film.brightest[i * BRIGHTEST + k]));
  return out;
}

/** A picture that films are added to one by one, so that not all of them need be there at once. */
export interface PictureFill {
  picture: Picture;
  /** Films may lie anywhere; what none of them covers stays 0. */
  add(film: Film): void;
}

/**
 * @param region what the picture covers, full-frame pixels
 * @param passes names from `passList(layout)`; a RangeError names one that is not
 * @param layout of the films
 * @param step takes every so many-th pixel in both directions, for figures of large frames
 */
export function fillPicture(
  region: Region,
  passes: Iterable<string>,
  layout: FilmLayout = NO_EXTRAS,
  step = 1,
): PictureFill {
  const known = new Map<string, PassInfo>(passList(layout).map((pass) => [pass.name, pass]));
  const channels = [...passes].flatMap((name) => {
    const pass = known.get(name);
    if (!pass) throw new RangeError(`there is no pass "${name}"`);
    return pass.channels;
  });
  const columns = Math.ceil(region.width / step);
  const rows = Math.ceil(region.height / step);
  const picture = createPicture(columns, rows, channels, region.x, region.y);
  const readers = readersOf(layout);
  const plan = channels.map((name) => ({ read: readers.get(name)!, plane: picture.channels.get(name)! }));
  const add = (film: Film) => {
    const { x, y, width, height } = film.region;
    // Rows and columns of the picture whose pixels lie in this film.
    const first = (from: number, start: number) => Math.max(0, Math.ceil((from - start) / step));
    const last = (end: number, start: number, count: number) => Math.min(count, Math.ceil((end - start) / step));
    const [x0, x1] = [first(x, region.x), last(x + width, region.x, columns)];
    const [y0, y1] = [first(y, region.y), last(y + height, region.y, rows)];
    for (const { read, plane } of plan)
      for (let row = y0; row < y1; row++)
        for (let column = x0; column < x1; column++) {
          const from = (region.y + row * step - y) * width + region.x + column * step - x;
          plane[row * columns + column] = read(film, from);
        }
  };
  return { picture, add };
}

/** The picture of films that are all at hand, see `fillPicture`. */
export function pictureOf(
  films: Iterable<Film>,
  region: Region,
  passes: Iterable<string>,
  layout: FilmLayout = NO_EXTRAS,
): Picture {
  const { picture, add } = fillPicture(region, passes, layout);
  for (const film of films) add(film);
  return picture;
}
