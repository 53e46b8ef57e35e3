/**
 * The path tracer compiled to WebAssembly with SIMD: `Integrator` and all it needs are lowered from TypeScript (see
 * `scripts/lib/lower.mjs`), only the walk through trees is written for the kernel. Structures that it reads (scene and
 * settings) are written by the host, see `core/render/path/kernel-tracer.ts`.
 */
import { CompiledScene } from '../../render/scene/scene';
import { PathSettings } from '../../render/scene/path-settings';
import { Integrator } from '../../render/path/integrator';
import { Intersector } from './intersector';
import { I32s, useArena } from './prelude';

export { trace } from './walk';

let integrator = changetype<Integrator>(0);

/**
 * Makes the path tracer of this instance; the one before is gone.
 * @param scene and `settings`: addresses of structures
 * @param slot of this thread
 * @param arena and `end`: memory of this thread that holds the tracer
 */
export function begin(scene: usize, settings: usize, slot: i32, arena: usize, end: usize): void {
  useArena(arena, end);
  integrator = new Integrator(
    changetype<CompiledScene>(scene),
    changetype<PathSettings>(settings),
    new Intersector(slot),
    null,
  );
}

export function group(x: i32, y: i32, number: i32): void {
  integrator.group(x, y, number);
}

export function expect(object: i32, material: i32): void {
  integrator.expect(object, material);
}

export function crossings(x: i32, y: i32, crossed: usize): i32 {
  return integrator.crossings(x, y, changetype<I32s>(crossed));
}

export function sums(): usize {
  return changetype<usize>(integrator.collector.sums);
}

export function brightest(): usize {
  return changetype<usize>(integrator.collector.brightest);
}

export function rays(): usize {
  return changetype<usize>(integrator.collector.rays);
}

export function ids(): usize {
  return changetype<usize>(integrator.ids);
}
