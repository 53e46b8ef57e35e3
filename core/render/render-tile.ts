import { createFilm, foldGroup, type Film } from './film.ts';
import { Integrator } from './integrator.ts';
import { MEAN_RAYS, MEANS } from './passes.ts';
import { GROUP } from './random.ts';
import type { CompiledScene, RenderSettings } from './scene.ts';

/**
 * Adds sample groups to a film until it has `groups`. The result's bits depend on the scene, the
 * settings and the number of groups only: not on the tile, nor on how many calls it took.
 * @returns rays traced by this call
 */
export function renderGroups(scene: CompiledScene, settings: RenderSettings, film: Film, groups: number): number {
  const integrator = new Integrator(scene, settings);
  const { x: x0, y: y0, width, height } = film.region;
  let rays = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      rays += renderPixel(integrator, settings, film, y * width + x, x0 + x, y0 + y, groups);
  film.groups = Math.max(film.groups, groups);
  return rays;
}

/**
 * Renders scattered pixels of the frame, for pilots.
 * @param pixels full-frame pixel numbers, y × width + x
 * @returns a film of one row with a pixel for each, in order
 */
export function renderPixels(
  scene: CompiledScene,
  settings: RenderSettings,
  pixels: ArrayLike<number>,
  groups: number,
): Film {
  const integrator = new Integrator(scene, settings);
  const film = createFilm({ x: 0, y: 0, width: pixels.length, height: 1 });
  for (let i = 0; i < pixels.length; i++)
    renderPixel(
      integrator,
      settings,
      film,
      i,
      pixels[i] % settings.width,
      Math.floor(pixels[i] / settings.width),
      groups,
    );
  film.groups = groups;
  return film;
}

/** Folds the groups from `film.groups` to `groups` of frame pixel (x, y) into the film's `pixel`. */
function renderPixel(
  integrator: Integrator,
  settings: RenderSettings,
  film: Film,
  pixel: number,
  x: number,
  y: number,
  groups: number,
): number {
  const { random, sums } = integrator;
  let rays = 0;
  for (let group = film.groups; group < groups; group++) {
    random.start(x, y, group, settings.seed);
    random.sample = 0;
    if (group === 0) film.crossings[pixel] = integrator.crossings(x, y);
    sums.fill(0);
    for (let s = 0; s < GROUP; s++) {
      random.sample = s;
      integrator.sample(x, y);
    }
    rays += sums[MEAN_RAYS];
    for (let k = 0; k < MEANS; k++) sums[k] /= GROUP;
    foldGroup(film, pixel, sums, group + 1);
  }
  return rays;
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
