/** The WebAssembly kernels in the browser. */
import renderUrl from '../../dist/kernels/render.wasm?url';
import buildUrl from '../../dist/kernels/build-bvh.wasm?url';
import { kernelBuilder, type BuildKernel } from '../../core/geometry/kernel-builder.ts';
import { KeptParts } from '../../core/geometry/kept-parts.ts';
import type { Layouts } from '../../core/data/structures.ts';
import type { Means } from '../../core/geometry/scene-geometry.ts';
import { KERNEL_IMPORTS, ThreadKernel, type RenderKernel } from '../../core/render/path/kernel-tracer.ts';
import type { LiveScene } from './live-messages.ts';

/** Traces paths; workers make instances of it on a scene's memory. */
export const renderKernel = (): Promise<WebAssembly.Module> => WebAssembly.compileStreaming(fetch(renderUrl));

/** How the structures look that it reads. */
export function layoutsOf(kernel: WebAssembly.Module): Layouts {
  const [section] = WebAssembly.Module.customSections(kernel, 'structures');
  return JSON.parse(new TextDecoder().decode(section)) as Layouts;
}

/** @param slot of this worker, that no other has */
export function threadKernel(kernel: WebAssembly.Module, { memory, slots, at }: LiveScene, slot: number): ThreadKernel {
  const { exports } = new WebAssembly.Instance(kernel, { env: { memory }, ...KERNEL_IMPORTS });
  return new ThreadKernel(exports as unknown as RenderKernel, { memory, slots }, layoutsOf(kernel), slot, at);
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
