import { createFilm, foldGroup, type Film } from '../film/film.ts';
import { groupsNeeded } from './adaptive.ts';
import { drawLines } from '../lines/draw.ts';
import { tracerOf } from '../path/tracer.ts';
import type { GroupTracer } from '../scene/scene-kernel.ts';
import { BRIGHTEST, MEAN_MATERIAL, MEAN_OBJECT, MEAN_RAYS } from '../film/passes.ts';
import { GROUP } from '../film/random.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';

/** Milliseconds since some moment; handed in by a host that wants time told per pixel. */
export type Clock = () => number;

/**
 * Adds sample groups to a film until it has `groups`. The result's bits depend on the scene, the
 * settings and the number of groups only: not on the tile, nor on how many calls it took.
 * @param clock fills the film's `time`, which is outside that promise
 * @param byKind rays by what they are sent for, added to; see `RAY_NAMES`
 * @returns rays traced by this call
 */
export function renderGroups(
  scene: CompiledScene,
  settings: RenderSettings,
  film: Film,
  groups: number,
  clock: Clock | null = null,
  byKind: Float64Array | null = null,
): number {
  const tracer = tracerOf(scene, settings);
  const { x: x0, y: y0, width, height } = film.region;
  if (scene.layout.lines && film.groups === 0) film.lines.set(drawLines(scene, settings, film.region));
  let rays = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x;
      const start = clock?.() ?? 0;
      rays += renderPixel(tracer, settings, film, pixel, x0 + x, y0 + y, groups);
      if (clock) film.time[pixel] += (clock() - start) * 1000;
    }
  film.groups = Math.max(film.groups, groups);
  if (byKind) tracer.raysByKind.forEach((n, k) => (byKind[k] += n));
  return rays;
}

/**
 * Renders scattered pixels of the frame, for pilots.
 * @param pixels full-frame pixel numbers, y × width + x
 * @param clock fills the film's `time`
 * @returns a film of one row with a pixel for each, in order
 */
export function renderPixels(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  groups: number,
  clock: Clock | null = null,
): Film {
  const tracer = tracerOf(scene, settings);
  const film = createFilm({ x: 0, y: 0, width: pixels.length, height: 1 }, scene.layout);
  for (let i = 0; i < pixels.length; i++) {
    const start = clock?.() ?? 0;
    const [x, y] = [pixels[i] % settings.width, Math.floor(pixels[i] / settings.width)];
    renderPixel(tracer, settings, film, i, x, y, groups);
    if (clock) film.time[i] = (clock() - start) * 1000;
  }
  film.groups = groups;
  return film;
}

/** Folds the groups that frame pixel (x, y) lacks up to `groups` into the film's `pixel`. */
function renderPixel(
  tracer: GroupTracer,
  settings: RenderSettings,
  film: Film,
  pixel: number,
  x: number,
  y: number,
  groups: number,
): number {
  const { sums, brightest, ids } = tracer;
  let rays = 0;
  if (film.counts[pixel] === 0) {
    film.crossings[pixel] = tracer.crossings(x, y, UNTOLD);
    if (settings.adaptive.on && film.wanted[pixel] === 0) {
      const pilot = groupsNeeded(tracer, settings, x, y);
      film.wanted[pixel] = pilot.groups;
      rays += pilot.rays;
    }
  }
  tracer.expect(film.ids[pixel * 2], film.ids[pixel * 2 + 1]);
  const until = settings.adaptive.on ? Math.min(groups, film.wanted[pixel]) : groups;
  for (let group = film.counts[pixel]; group < until; group++) {
    tracer.group(x, y, group);
    if (group === 0) {
      takeIds(film, pixel, ids, sums);
      tracer.expect(film.ids[pixel * 2], film.ids[pixel * 2 + 1]);
    }
    rays += sums[MEAN_RAYS];
    for (let k = 0; k < film.width; k++) sums[k] *= SHARE;
    foldGroup(film, pixel, sums);
    const o = pixel * BRIGHTEST;
    if (brightest[0] > film.brightest[o]) film.brightest.set(brightest, o);
  }
  return rays;
}

/** Exactly a division by the samples of a group. */
const SHARE = 1 / GROUP;

/** Room for no instance: only their number is wanted. */
const UNTOLD = new Int32Array(0);

/** Settles a pixel's object and material: what most of the first group's samples met; of equals the lower number. */
function takeIds(film: Film, pixel: number, ids: Float64Array, sums: Float64Array): void {
  for (let k = 0; k < 2; k++) {
    let id = 0;
    let most = 0;
    for (let s = 0; s < GROUP; s++) {
      const own = ids[s * 2 + k];
      let times = 0;
      for (let other = 0; other < GROUP; other++) if (ids[other * 2 + k] === own) times++;
      if (times > most || (times === most && own < id)) [id, most] = [own, times];
    }
    film.ids[pixel * 2 + k] = id;
    if (id > 0) sums[k === 0 ? MEAN_OBJECT : MEAN_MATERIAL] += most;
  }
}

/** Tiles of `size` pixels that cover a region of the full frame; tile edges stand on multiples of `size`. */
export function tilesOf(region: { x: number; y: number; width: number; height: number }, size: number) {
  const tiles = [];
  const right = region.x + region.width;
  const bottom = region.y + region.height;
  for (let ty = Math.floor(region.y / size) * size; ty < bottom; ty += size) {
    for (let tx = Math.floor(region.x / size) * size; tx < right; tx += size) {
      const x = Math.max(tx, region.x);
      const y = Math.max(ty, region.y);
      tiles.push({ x, y, width: Math.min(tx + size, right) - x, height: Math.min(ty + size, bottom) - y });
    }
  }
  return tiles;
}
