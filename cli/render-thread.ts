/** One thread of a render from the shell: tiles in, films out. */
import { parentPort, workerData } from 'node:worker_threads';
import type { Region } from '../core/data/picture.ts';
import { RAY_NAMES } from '../core/render/path/collector.ts';
import { createFilm, packFilm, packTime } from '../core/render/film/film.ts';
import { renderGroups } from '../core/render/frame/render-tile.ts';
import type { CompiledScene, RenderSettings } from '../core/render/scene/scene.ts';
import { withKernel, type PackedScene } from '../host/kernel.ts';

export interface ThreadData {
  scene: CompiledScene;
  packed: PackedScene;
  settings: RenderSettings;
  groups: number;
}

export interface TileDone {
  film: Uint8Array;
  time: Uint8Array;
  rays: Float64Array;
}

const { scene, packed, settings, groups } = workerData as ThreadData;
const ready = withKernel(scene, packed);

parentPort!.on('message', (tile: Region) => {
  const film = createFilm(tile, scene.layout);
  const rays = new Float64Array(RAY_NAMES.length);
  renderGroups(ready, settings, film, groups, () => performance.now(), rays);
  parentPort!.postMessage({ film: packFilm(film), time: packTime(film), rays } satisfies TileDone);
});
