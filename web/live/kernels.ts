/** The WebAssembly kernels in the browser. */
import renderUrl from '../../dist/kernels/render.wasm?url';
import buildUrl from '../../dist/kernels/build-bvh.wasm?url';
import { kernelBuilder, type BuildKernel } from '../../core/geometry/kernel-builder.ts';
import { KeptParts } from '../../core/geometry/kept-parts.ts';
import { layoutsOf } from '../../core/data/structures.ts';
import { MOST_PAGES, type GrowingMemory } from '../../core/geometry/packed-geometry.ts';
import type { Means } from '../../core/geometry/scene-geometry.ts';
import { KERNEL_IMPORTS, ThreadKernel, type RenderKernel } from '../../core/render/path/kernel-tracer.ts';
import { ScenePlaces } from '../../core/render/path/scene-places.ts';
import type { LiveScene } from './live-messages.ts';

/** Traces paths; workers make instances of it on a scene's memory. */
export const renderKernel = (): Promise<WebAssembly.Module> => WebAssembly.compileStreaming(fetch(renderUrl));

const layouts = (kernel: WebAssembly.Module) => layoutsOf(WebAssembly.Module.customSections(kernel, 'structures'));

type Memory = WebAssembly.Memory & GrowingMemory;

/** Where this worker puts scenes that others trace. */
export async function scenePlaces(): Promise<ScenePlaces<Memory>> {
  const newMemory = (pages: number) => new WebAssembly.Memory({ initial: pages, maximum: MOST_PAGES, shared: true });
  return new ScenePlaces(layouts(await renderKernel()), newMemory);
}

/** @param slot of this worker, that no other has */
export function threadKernel(kernel: WebAssembly.Module, { memory, slots, at }: LiveScene, slot: number): ThreadKernel {
  const { exports } = new WebAssembly.Instance(kernel, { env: { memory }, ...KERNEL_IMPORTS });
  return new ThreadKernel(exports as unknown as RenderKernel, { memory, slots }, layouts(kernel), slot, at);
}

/** Memory that workers share, and trees built by the kernel. */
export async function lentByPage(): Promise<Means> {
  const memory = new WebAssembly.Memory({ initial: 1, maximum: 65536, shared: true });
  const { instance } = await WebAssembly.instantiateStreaming(fetch(buildUrl), { env: { memory } });
  return {
    allocate: (bytes) => new SharedArrayBuffer(bytes),
    buildBvh: kernelBuilder({ memory, build: instance.exports.build as BuildKernel['build'] }),
    kept: new KeptParts(),
  };
}
