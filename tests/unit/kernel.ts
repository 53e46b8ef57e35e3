/** The built kernel for tests, as the server's threads use it. */
import { readFileSync } from 'node:fs';
import { KernelIntersector, type IntersectKernel } from '../../core/geometry/kernel-intersector.ts';
import { layOut } from '../../core/geometry/packed-geometry.ts';
import type { SceneGeometry } from '../../core/geometry/scene-geometry.ts';

const kernelModule = new WebAssembly.Module(
  readFileSync(new URL('../../dist/kernels/intersect.wasm', import.meta.url)),
);

export function kernelRays(geometry: SceneGeometry, slot = 0): KernelIntersector {
  const layout = layOut(geometry);
  const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: layout.pages, shared: true });
  layout.write(memory.buffer);
  const { exports } = new WebAssembly.Instance(kernelModule, { env: { memory } });
  return new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, layout.slots, slot);
}
