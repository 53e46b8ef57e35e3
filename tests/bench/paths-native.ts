/**
 * Path samples and rays a second against a small path tracer in C++ on Embree that does the same work: the same events,
 * lights and limits, no roulette, one thread each, in turns. Both must see the same radiance.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import process from 'node:process';
import { QUAD_AREA, QUAD_NORMAL, QUAD_PLACE, QUAD_U, QUAD_V } from '../../core/lights/quad.ts';
import { LIGHT_RADIANCE } from '../../core/lights/table.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import {
  MATERIAL_BASE,
  MATERIAL_IOR,
  MATERIAL_METALLIC,
  MATERIAL_STRIDE,
  MATERIAL_TRANSMISSION,
} from '../../core/render/scene/material-row.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import { compiled, meanOf, type TestScene } from '../unit/helpers.ts';
import { kernelScene } from '../unit/kernel.ts';
import { median, ratio } from './measure.ts';
import { pathScenes } from './path-scenes.ts';

const RUNS = 7;
const GROUPS = 16;
const REGION = { x: 48, y: 32, width: 96, height: 64 };
const SAMPLES = REGION.width * REGION.height * GROUPS * 4;

export function benchNative(): void {
  if (!existsSync('/usr/include/embree3/rtcore.h')) {
    console.log('native: needs Embree’s headers and a compiler (apt-get install libembree-dev g++)');
    return;
  }
  const folder = mkdtempSync(join(tmpdir(), 'dusting-bench-'));
  try {
    const native = join(folder, 'trace-paths');
    execFileSync('g++', ['-O3', '-march=native', '-std=c++17', join(import.meta.dirname, 'native/trace-paths.cpp'), '-o', native, '-lembree3']); // prettier-ignore
    for (const [name, make] of Object.entries(pathScenes)) benchScene(name, make(), native, join(folder, 'scene'));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function benchScene(name: string, test: TestScene, native: string, file: string): void {
  const scene = kernelScene(compiled(test));
  writeFileSync(file, tellScene(scene, test));
  const settings = settingsOf(test.document.sheets.preview);
  const ratios: number[] = [];
  const rayRatios: number[] = [];
  let told = '';
  for (let run = 0; run <= RUNS; run++) {
    const film = createFilm(REGION, scene.layout);
    const started = process.cpuUsage();
    const rays = renderGroups(scene, settings, film, GROUPS);
    const { user, system } = process.cpuUsage(started);
    const own = (user + system) / 1e6;
    const { x, y, width, height } = REGION;
    const [seconds, theirRays, mean, error] = execFileSync(native, [file, ...[x, y, width, height, GROUPS].map(String)], { encoding: 'utf8' }).split(' ').map(Number); // prettier-ignore
    // The first warms up.
    if (run === 0) continue;
    ratios.push(seconds / own);
    rayRatios.push(rays / own / (theirRays / seconds));
    const seen = meanOf(film);
    const off = Math.abs(seen.mean - mean) / Math.hypot(seen.error, error);
    told = `${k(SAMPLES / own)} against ${k(SAMPLES / seconds)} samples/s, ${(rays / SAMPLES).toFixed(2)} and ${(theirRays / SAMPLES).toFixed(2)} rays per sample, radiance ${seen.mean.toFixed(4)} and ${mean.toFixed(4)}, ${off.toFixed(1)} standard errors apart${off > 3 ? ': NOT THE SAME' : ''}`; // prettier-ignore
  }
  const range = (list: number[], what: string) => `${ratio(`${name}: ${what} of Embree`, median(list))} (${Math.min(...list).toFixed(2)}–${Math.max(...list).toFixed(2)})`; // prettier-ignore
  console.log(`native, ${name}: samples ${range(ratios, 'samples')}, rays ${range(rayRatios, 'rays')}; ${told}`);
}

const k = (n: number) => `${Math.round(n / 1000)} k`;

/** A scene as doubles, in the order in which `native/trace-paths.cpp` reads them. */
function tellScene(scene: CompiledScene, { document }: TestScene): Float64Array {
  const { limits, width, height } = document.sheets.preview;
  const { lights, materials, geometry } = scene;
  const out: number[] = [width, height, limits.diffuse, limits.specular, limits.overall, ...scene.camera];
  const hasSquare = Object.keys(document.lights).length > 0;
  const of = (slot: number) => (hasSquare ? [...lights.subarray(slot, slot + 3)] : [0, 0, 0]);
  out.push(Number(hasSquare), ...of(QUAD_PLACE), ...of(QUAD_U), ...of(QUAD_V), ...of(QUAD_NORMAL));
  out.push(hasSquare ? lights[QUAD_AREA] : 0, hasSquare ? lights[LIGHT_RADIANCE] : 0, hasSquare ? 0 : 1);
  out.push(geometry.meshes.length);
  for (const { positions, indices } of geometry.meshes) {
    out.push(positions.length, indices.length);
    for (const p of positions) out.push(p);
    for (const i of indices) out.push(i);
  }
  out.push(geometry.instanceMesh.length);
  geometry.instanceMesh.forEach((mesh, i) => {
    const o = scene.instanceMaterial[i] * MATERIAL_STRIDE;
    const kind = materials[o + MATERIAL_TRANSMISSION] > 0 ? 2 : materials[o + MATERIAL_METALLIC] > 0 ? 1 : 0;
    out.push(mesh, kind, materials[o + MATERIAL_BASE], materials[o + MATERIAL_IOR]);
    for (let c = 0; c < 12; c++) out.push(geometry.toWorld[i * 12 + c]);
  });
  return Float64Array.from(out);
}
