/**
 * Noise at equal rays of every demo shot: two renders of other random numbers, their difference in display steps, times the
 * square root of the rays that a pixel took. What halves it halves the noise that the same rays leave.
 */
import { luminance } from '../../core/data/colour.ts';
import { plainDisplay, visibleGrain } from '../../core/data/grain.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { GROUP } from '../../core/render/film/random.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { demoShots } from '../../demo/shots.ts';
import { kernelScene } from '../unit/kernel.ts';

const [WIDTH, HEIGHT, SAMPLES] = [160, 90, 32];

export async function benchNoise(): Promise<void> {
  for (const [code, build] of Object.entries(demoShots)) {
    const { document, files } = await build();
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, code, 'stand in');
    const own = document.sheets.preview;
    const sheet = { ...own, width: WIDTH, height: HEIGHT, samples: SAMPLES, adaptive: { ...own.adaptive, on: false } };
    const scene = kernelScene(compileScene(document, assets, sheet));
    let rays = 0;
    const started = performance.now();
    const [a, b] = [1, 2].map((seed) => {
      const film = createFilm({ x: 0, y: 0, width: WIDTH, height: HEIGHT }, scene.layout);
      rays += renderGroups(scene, settingsOf(sheet, seed), film, SAMPLES / GROUP);
      return film;
    });
    const seconds = (performance.now() - started) / 1000;
    const pixels = WIDTH * HEIGHT;
    let noise = 0;
    for (let i = 0; i < pixels; i++) {
      const [p, q] = [a, b].map(({ means, width }) => luminance(means[i * width], means[i * width + 1], means[i * width + 2])); // prettier-ignore
      // The mean and not the mean square: a few fireflies would drown everything else.
      noise += visibleGrain((p + q) / 2, Math.abs(p - q) / Math.SQRT2, plainDisplay) / pixels;
    }
    const perPixel = rays / 2 / pixels;
    console.log(`noise, ${code}: ${noise.toFixed(3)} steps with ${(perPixel / SAMPLES).toFixed(2)} rays per sample, ${(noise * Math.sqrt(perPixel)).toFixed(1)} at equal rays; ${Object.keys(document.lights).length} lights; ${seconds.toFixed(1)} s`); // prettier-ignore
  }
}
