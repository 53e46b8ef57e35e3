/** The WebAssembly kernel on the server: a scene's memory, made once a process, and each thread's way into it. */
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { threadId } from 'node:worker_threads';
import { KernelIntersector, type IntersectKernel } from '../../core/geometry/kernel-intersector.ts';
import { layOut, SLOTS } from '../../core/geometry/packed-geometry.ts';
import type { CompiledScene } from '../../core/render/scene.ts';

export interface PackedScene {
  memory: WebAssembly.Memory;
  /** Address of the threads' slots. */
  slots: number;
}

export function packScene({ geometry }: CompiledScene): PackedScene {
  const layout = layOut(geometry);
  const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: layout.pages, shared: true });
  layout.write(memory.buffer);
  return { memory, slots: layout.slots };
}

let compiled: WebAssembly.Module | null = null;
function kernel(): WebAssembly.Module {
  // Built, this file is in dist/server; from source, in server/render.
  const place = ['../kernels/intersect.wasm', '../../dist/kernels/intersect.wasm']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find(existsSync);
  if (!place) throw new Error('dist/kernels/intersect.wasm is not there: npm run build makes it');
  return (compiled ??= new WebAssembly.Module(readFileSync(place)));
}

/** The scene with rays that go through the kernel, for this thread alone. */
export function withKernel(scene: CompiledScene, { memory, slots }: PackedScene): CompiledScene {
  const { exports } = new WebAssembly.Instance(kernel(), { env: { memory } });
  // Threads of a process have numbers of their own, and fewer of them live at a time than there are slots.
  const rays = new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, slots, threadId % SLOTS);
  return { ...scene, rays };
}
