import { createFilm, foldGroup, type Film } from '../film/film.ts';
import { groupsNeeded } from './adaptive.ts';
import { Integrator } from '../path/integrator.ts';
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
  const integrator = new Integrator(scene, settings);
  const { x: x0, y: y0, width, height } = film.region;
  let rays = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x;
      const start = clock?.() ?? 0;
      rays += renderPixel(integrator, settings, film, pixel, x0 + x, y0 + y, groups);
      if (clock) film.time[pixel] += (clock() - start) * 1000;
    }
  film.groups = Math.max(film.groups, groups);
  if (byKind) integrator.collector.rays.forEach((n, k) => (byKind[k] += n));
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
  const integrator = new Integrator(scene, settings);
  const film = createFilm({ x: 0, y: 0, width: pixels.length, height: 1 }, scene.layout);
  for (let i = 0; i < pixels.length; i++) {
    const start = clock?.() ?? 0;
    const [x, y] = [pixels[i] % settings.width, Math.floor(pixels[i] / settings.width)];
    renderPixel(integrator, settings, film, i, x, y, groups);
    if (clock) film.time[i] = (clock() - start) * 1000;
  }
  film.groups = groups;
  return film;
}

/** Folds the groups that frame pixel (x, y) lacks up to `groups` into the film's `pixel`. */
function renderPixel(
  integrator: Integrator,
  settings: RenderSettings,
  film: Film,
  pixel: number,
  x: number,
  y: number,
  groups: number,
): number {
  const { collector, random } = integrator;
  const { sums } = collector;
  let rays = 0;
  if (film.counts[pixel] === 0) {
    random.start(x, y, 0, settings.seed);
    random.sample = 0;
    film.crossings[pixel] = integrator.crossings(x, y);
    if (settings.adaptive.on && film.wanted[pixel] === 0) {
      const pilot = groupsNeeded(integrator, settings, x, y);
      film.wanted[pixel] = pilot.groups;
      rays += pilot.rays;
    }
  }
  integrator.expect(film.ids[pixel * 2], film.ids[pixel * 2 + 1]);
  const until = settings.adaptive.on ? Math.min(groups, film.wanted[pixel]) : groups;
  for (let group = film.counts[pixel]; group < until; group++) {
    random.start(x, y, group, settings.seed);
    collector.clear();
    for (let s = 0; s < GROUP; s++) {
      random.sample = s;
      integrator.sample(x, y);
      if (group === 0) firstIds.set(integrator.ids, s * 2);
    }
    if (group === 0) {
      takeIds(film, pixel, sums);
      integrator.expect(film.ids[pixel * 2], film.ids[pixel * 2 + 1]);
    }
    rays += sums[MEAN_RAYS];
    for (let k = 0; k < film.width; k++) sums[k] /= GROUP;
    foldGroup(film, pixel, sums);
    const o = pixel * BRIGHTEST;
    if (collector.brightest[0] > film.brightest[o]) film.brightest.set(collector.brightest, o);
  }
  return rays;
}

/** Object and material that each sample of a pixel's first group met first. */
const firstIds = new Float64Array(GROUP * 2);

/** Settles a pixel's object and material: what most of the first group's samples met; of equals the lower number. */
function takeIds(film: Film, pixel: number, sums: Float64Array): void {
  for (let k = 0; k < 2; k++) {
    let id = 0;
    let most = 0;
    for (let s = 0; s < GROUP; s++) {
      const own = firstIds[s * 2 + k];
      let times = 0;
      for (let other = 0; other < GROUP; other++) if (firstIds[other * 2 + k] === own) times++;
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
