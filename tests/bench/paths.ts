/** Path samples a second on every demo shot, one thread and two; cost against triangles and against pixels. */
import { renderFrame } from '../../cli/render-frame.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { filmBytes } from '../../core/render/film/film.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { NO_EXTRAS } from '../../core/render/film/passes.ts';
import { GROUP } from '../../core/render/film/random.ts';
import { settingsOf, type CompiledScene, type RenderSettings } from '../../core/render/scene/scene.ts';
import { demoShots } from '../../demo/shots.ts';
import { lentByHost } from '../../host/kernel.ts';
import { compiled, scene } from '../unit/helpers.ts';
import { translation } from '../../core/data/transform.ts';
import { defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import type { LightSpec } from '../../core/document/schema.ts';
import { randomNumbers } from '../unit/size.ts';
import { room, terrain } from './meshes.ts';
import { median, ratio } from './measure.ts';

/** Seconds that a region in the middle of the frame takes. */
async function once(
  scene: CompiledScene,
  settings: RenderSettings,
  width: number,
  height: number,
  groups: number,
  threads: number,
): Promise<number> {
  const region = {
    x: Math.floor((settings.width - width) / 2),
    y: Math.floor((settings.height - height) / 2),
    width,
    height,
  };
  const started = performance.now();
  await renderFrame(scene, settings, region, groups, threads, () => {});
  return (performance.now() - started) / 1000;
}

/** Median seconds of three renders. */
async function seconds(...what: Parameters<typeof once>): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < 3; run++) times.push(await once(...what));
  return median(times);
}

/** In turns, since the machine's speed drifts by more than a thread that is badly fed would lose. */
const TURNS = 7;

export async function benchShots(): Promise<void> {
  const gains: number[] = [];
  for (const [code, build] of Object.entries(demoShots)) {
    const { document, files } = await build();
    // HA-070 came without some of its files.
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, code, 'stand in');
    const sheet = document.sheets.preview;
    const compiled = compileScene(document, assets, sheet, lentByHost);
    const [width, height, groups] = [192, 128, 6];
    // Threads start at every render; a shorter one taken off leaves the tracing.
    const tracing = async (threads: number) =>
      (await once(compiled, settingsOf(sheet), width, height, groups + 1, threads)) -
      (await once(compiled, settingsOf(sheet), width, height, 1, threads));
    const [ones, twos]: number[][] = [[], []];
    for (let turn = 0; turn < TURNS; turn++) {
      ones.push(await tracing(1));
      twos.push(await tracing(2));
    }
    const gain = ones.map((one, turn) => one / twos[turn]);
    gains.push(median(gain));
    const rate = (s: number[]) => `${Math.round((width * height * groups * GROUP) / median(s) / 1000)} k`;
    console.log(`${code}: ${rate(ones)} path samples/s on one thread, ${rate(twos)} on two, ${median(gain).toFixed(2)} × (${Math.min(...gain).toFixed(2)}–${Math.max(...gain).toFixed(2)})`); // prettier-ignore
  }
  console.log(
    `a second thread, median: ${ratio('a second thread', median(gains))}; ${filmBytes(NO_EXTRAS)} bytes per pixel`,
  );
}

/** A closed room under 1 to 1000 spheres of light that together are as bright. */
async function growWithLights(): Promise<void> {
  const mesh = room();
  const each: string[] = [];
  const times: number[] = [];
  for (const count of [1, 10, 100, 1000]) {
    const random = randomNumbers(7);
    const at = () => translation((random() - 0.5) * 9, (random() - 0.5) * 9, (random() - 0.5) * 9);
    const light = (): LightSpec => ({ ...defaultLight('point'), radius: 0.05, intensity: 40 / count, transform: at() }) as LightSpec; // prettier-ignore
    const lights = Object.fromEntries(Array.from({ length: count }, (_, k) => [`light${k}`, light()]));
    const test = scene([{ mesh, material: { baseColour: [0.7, 0.7, 0.7], roughness: 1, specular: 0 } }], { lights }, { width: 96, height: 64, limits: { diffuse: 4, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 4 } }); // prettier-ignore
    times.push(await seconds(compiled(test), settingsOf(test.document.sheets.preview), 96, 64, 4, 1));
    each.push(`${count}: ${times.at(-1)!.toFixed(2)} s`);
  }
  console.log(`cost against lights, room: ${each.join(', ')}; ${ratio('1000 lights against one', times[3] / times[0])}`); // prettier-ignore
}

async function growWithTriangles(): Promise<void> {
  const times: number[] = [];
  const each: string[] = [];
  for (const side of [70, 224, 707, 2236]) {
    const test = scene(
      [{ mesh: terrain(side) }],
      { environment: evenEnvironment([1, 1, 1]) },
      { width: 192, height: 128 },
    );
    times.push(await seconds(compiled(test), settingsOf(test.document.sheets.preview), 192, 128, 4, 1));
    each.push(`${Math.round((side * side * 2) / 1000)} k: ${times.at(-1)!.toFixed(2)} s`);
  }
  console.log(`cost against triangles, terrain: ${each.join(', ')}; ${ratio('a thousand times the triangles', times[3] / times[0])}`); // prettier-ignore
}

/** Time of a pixel, a shorter render taken off so that starting a thread does not count. */
async function growWithPixels(): Promise<void> {
  const test = scene(
    [{ mesh: terrain(224) }],
    { environment: evenEnvironment([1, 1, 1]) },
    { width: 1920, height: 1080 },
  );
  const ready = compiled(test);
  const settings = settingsOf(test.document.sheets.preview);
  const times: number[] = [];
  for (const [width, height] of [[64, 64], [512, 512], [1920, 1080]]) // prettier-ignore
    times.push((1e6 * ((await seconds(ready, settings, width, height, 2, 1)) - (await seconds(ready, settings, width, height, 1, 1)))) / width / height); // prettier-ignore
  const [small, middle, large] = times.map((t) => `${t.toFixed(2)} µs`);
  console.log(`cost of a group of a pixel: 64²: ${small}, 512²: ${middle}, 1080p: ${large}; ${ratio('a pixel of 1080p against one of 512²', times[2] / times[1])}`); // prettier-ignore
}

export async function benchGrowth(): Promise<void> {
  await growWithLights();
  await growWithTriangles();
  await growWithPixels();
}
