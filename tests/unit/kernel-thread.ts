/** A thread with scenes of its own beside one that it is sent, as those that examine renders have. */
import { parentPort, workerData } from 'node:worker_threads';
import { createFilm, packFilm } from '../../core/render/film/film.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import type { CompiledScene, RenderSettings } from '../../core/render/scene/scene.ts';
import { withKernel, type PackedScene } from '../../host/kernel.ts';
import { compiled, scene, square } from './helpers.ts';
import { kernelScene } from './kernel.ts';

const sent = workerData as { scene: CompiledScene; packed: PackedScene; settings: RenderSettings };
const own = kernelScene(compiled(scene([{ mesh: square(1, 0) }])));

const films = [own, withKernel(sent.scene, sent.packed), own].map((one) => {
  const film = createFilm({ x: 0, y: 0, width: 16, height: 16 }, one.layout);
  renderGroups(one, sent.settings, film, 1);
  return packFilm(film);
});
parentPort!.postMessage(films);
