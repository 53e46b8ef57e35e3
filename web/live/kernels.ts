/** The WebAssembly kernels in the browser. */
import intersectUrl from '../../dist/kernels/intersect.wasm?url';
import buildUrl from '../../dist/kernels/build-bvh.wasm?url';
import { kernelBuilder, type BuildKernel } from '../../core/geometry/kernel-builder.ts';
import { KeptParts } from '../../core/geometry/kept-parts.ts';
import { KernelIntersector, type IntersectKernel } from '../../core/geometry/kernel-intersector.ts';
import type { Means } from '../../core/geometry/scene-geometry.ts';

/** Traces rays; workers make instances of it on a scene's memory. */
export const intersectKernel = (): Promise<WebAssembly.Module> => WebAssembly.compileStreaming(fetch(intersectUrl));

export function intersector(
  kernel: WebAssembly.Module,
  memory: WebAssembly.Memory,
  slots: number,
  slot: number,
): KernelIntersector {
  const { exports } = new WebAssembly.Instance(kernel, { env: { memory } });
  return new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, slots, slot);
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
