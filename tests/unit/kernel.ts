/** The built kernel for tests, as the server's threads use it. */
import { readFileSync } from 'node:fs';
import { KernelIntersector, type IntersectKernel } from '../../core/geometry/kernel-intersector.ts';
import { layOut, MOST_PAGES } from '../../core/geometry/packed-geometry.ts';
import type { SceneGeometry } from '../../core/geometry/scene-geometry.ts';
import { KERNEL_IMPORTS } from '../../core/render/path/kernel-tracer.ts';
import type { CompiledScene } from '../../core/render/scene/scene.ts';
import { packScene, withKernel } from '../../host/kernel.ts';

const kernelModule = new WebAssembly.Module(readFileSync(new URL('../../dist/kernels/render.wasm', import.meta.url)));

export function kernelRays(geometry: SceneGeometry, slot = 0): KernelIntersector {
  const layout = layOut(geometry);
  const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: MOST_PAGES, shared: true });
  layout.write(memory.buffer);
  const { exports } = new WebAssembly.Instance(kernelModule, { env: { memory }, ...KERNEL_IMPORTS });
  return new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, layout.slots, slot);
}

/** A scene whose paths the kernel traces. */
export const kernelScene = (scene: CompiledScene): CompiledScene => withKernel(scene, packScene(scene));
