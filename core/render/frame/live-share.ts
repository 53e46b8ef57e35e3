/**
 * A region rendered so that something of it is there at once: one pixel of every 8 × 8 first, then of 4 × 4 and 2 × 2,
 * then all of them with one group of samples after another. Its tiles are dealt out to any number of workers; what they
 * write ends as the bits of an ordinary render.
 *
 * @example
 * const share = new LiveShare(scene, settings, region, { index: 0, of: 3 }, planes);
 * while (share.step()) await sleep(0);
 */
import type { Region } from '../../data/picture.ts';
import { createFilm, standardError, type Film } from '../film/film.ts';
import { BEAUTY } from '../film/passes.ts';
import { GROUP } from '../film/random.ts';
import { renderGroups, renderPixels, tilesOf } from './render-tile.ts';
import { groupsOf, nextRound } from '../film/rounds.ts';
import type { CompiledScene, RenderSettings } from '../scene/scene.ts';

/** A number a pixel of the region each, row by row; all workers write into the same. */
export interface LivePlanes {
  red: Float32Array;
  green: Float32Array;
  blue: Float32Array;
  /** Standard error of the luminance; 0 until there are two groups. */
  error: Float32Array;
  /** Samples of the pixel itself; 0 where a neighbour stands in. */
  samples: Float32Array;
}

/** Small, so that a worker hears of a change soon. */
const TILE = 16;
/** Pixels apart, one pass after another. */
const STRIDES = [8, 4, 2];
/** Pixels of a coarse pass that are rendered at a time. */
const AT_ONCE = 192;

export function livePlanes({ width, height }: Region, allocate: (bytes: number) => ArrayBufferLike): LivePlanes {
  const plane = () => new Float32Array(allocate(width * height * 4));
  return { red: plane(), green: plane(), blue: plane(), error: plane(), samples: plane() };
}

export class LiveShare {
  /** Samples that this worker has traced. */
  traced = 0;
  private readonly tiles: Region[];
  private readonly films: Film[];
  private readonly target: number;
  private stride = 0;
  private tile = 0;
  private groups = 1;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: RenderSettings,
    private readonly region: Region,
    share: { index: number; of: number },
    private readonly planes: LivePlanes,
  ) {
    const [cx, cy] = [region.x + region.width / 2, region.y + region.height / 2];
    const away = (t: Region) => Math.hypot(t.x + t.width / 2 - cx, t.y + t.height / 2 - cy);
    this.tiles = tilesOf(region, TILE)
      .sort((a, b) => away(a) - away(b))
      .filter((_, i) => i % share.of === share.index);
    this.films = this.tiles.map((tile) => createFilm(tile, scene.layout));
    this.target = groupsOf(settings.samples);
  }

  /** Renders a little more, a few hundredths of a second. @returns whether there is more to do */
  step(): boolean {
    if (this.tiles.length === 0) return false;
    if (this.stride < STRIDES.length) this.coarse(STRIDES[this.stride]);
    else this.fine();
    return this.stride < STRIDES.length || this.groups <= this.target;
  }

  private coarse(stride: number): void {
    const { settings, tiles } = this;
    const places: { x: number; y: number; tile: Region }[] = [];
    while (this.tile < tiles.length && places.length < AT_ONCE) {
      const tile = tiles[this.tile++];
      for (let y = tile.y; y < tile.y + tile.height; y += stride)
        for (let x = tile.x; x < tile.x + tile.width; x += stride) places.push({ x, y, tile });
    }
    // Pixels that decide by themselves how many samples they get would take those first.
    const quick = { ...settings, adaptive: { ...settings.adaptive, on: false } };
    const pixels = places.map(({ x, y }) => y * settings.width + x);
    const film = renderPixels(this.scene, quick, pixels, 1);
    this.traced += places.length * GROUP;
    places.forEach(({ x, y, tile }, i) => {
      const right = Math.min(x + stride, tile.x + tile.width);
      const bottom = Math.min(y + stride, tile.y + tile.height);
      for (let v = y; v < bottom; v++) for (let u = x; u < right; u++) this.write(film, i, u, v, 0);
    });
    if (this.tile < tiles.length) return;
    this.tile = 0;
    this.stride += 1;
  }

  private fine(): void {
    const film = this.films[this.tile];
    const { x, y, width, height } = film.region;
    const had = film.counts.reduce((sum, n) => sum + n, 0);
    renderGroups(this.scene, this.settings, film, this.groups);
    this.traced += (film.counts.reduce((sum, n) => sum + n, 0) - had) * GROUP;
    for (let i = 0; i < width * height; i++)
      this.write(film, i, x + (i % width), y + Math.floor(i / width), film.counts[i] * GROUP);
    if (++this.tile < this.tiles.length) return;
    this.tile = 0;
    // Past the last round, which ends it.
    this.groups = this.groups === this.target ? this.target + 1 : nextRound(this.groups, this.target);
  }

  private write(film: Film, i: number, x: number, y: number, samples: number): void {
    const { region, planes } = this;
    const at = (y - region.y) * region.width + x - region.x;
    const o = i * film.width;
    const ink = this.scene.layout.lines?.ink ?? null;
    const covered = ink ? film.lines[i] : 0;
    planes.red[at] = film.means[o] * (1 - covered) + (ink ? ink[0] * covered : 0);
    planes.green[at] = film.means[o + 1] * (1 - covered) + (ink ? ink[1] * covered : 0);
    planes.blue[at] = film.means[o + 2] * (1 - covered) + (ink ? ink[2] * covered : 0);
    planes.error[at] = film.counts[i] > 1 ? standardError(film, i, BEAUTY) * (1 - covered) : 0;
    planes.samples[at] = samples;
  }
}
