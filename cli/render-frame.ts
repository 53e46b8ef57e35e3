/** A region of a frame on all threads, tile by tile. */
import { Worker } from 'node:worker_threads';
import type { Region } from '../core/data/picture.ts';
import { RAY_NAMES } from '../core/render/path/collector.ts';
import { unpackFilm, type Film } from '../core/render/film/film.ts';
import { tilesOf } from '../core/render/frame/render-tile.ts';
import type { CompiledScene, RenderSettings } from '../core/render/scene/scene.ts';
import { packScene } from '../host/kernel.ts';
import type { ThreadData, TileDone } from './render-thread.ts';

const TILE = 32;

/** @param tell called after each tile with tiles done and in all */
export async function renderFrame(
  scene: CompiledScene,
  settings: RenderSettings,
  region: Region,
  groups: number,
  threads: number,
  tell: (done: number, all: number) => void,
): Promise<{ films: Film[]; rays: Record<string, number> }> {
  const tiles = tilesOf(region, TILE);
  const films: Film[] = [];
  const rays = new Float64Array(RAY_NAMES.length);
  const workerData: ThreadData = { scene, packed: packScene(scene), settings, groups };
  // Built, this file is a chunk beside the thread's own entry; from source, both are TypeScript.
  const entry = import.meta.url.endsWith('.ts') ? './render-thread.ts' : './render-thread.mjs';
  let next = 0;
  const one = () =>
    new Promise<void>((resolve, reject) => {
      const worker = new Worker(new URL(entry, import.meta.url), { workerData });
      const send = () => (next < tiles.length ? worker.postMessage(tiles[next++]) : void worker.terminate());
      worker.on('message', ({ film, time, rays: own }: TileDone) => {
        films.push(unpackFilm(film, time));
        own.forEach((n, k) => (rays[k] += n));
        tell(films.length, tiles.length);
        send();
      });
      worker.on('error', reject);
      worker.on('exit', () => resolve());
      send();
    });
  await Promise.all(Array.from({ length: Math.min(threads, tiles.length) }, one));
  const byKind = Object.fromEntries(RAY_NAMES.map((name, k) => [name, rays[k]]));
  return { films, rays: { ...byKind, total: rays.reduce((a, b) => a + b, 0) } };
}
