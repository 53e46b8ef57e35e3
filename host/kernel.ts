/** The WebAssembly kernel on Node: a scene's memory, made once a process, and each thread's way into it. */
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { threadId } from 'node:worker_threads';
import { KernelIntersector, type IntersectKernel } from '../core/geometry/kernel-intersector.ts';
import { layOut, SLOTS } from '../core/geometry/packed-geometry.ts';
import type { CompiledScene } from '../core/render/scene.ts';

export interface PackedScene {
  /** Tells scenes of a process apart. */
  key: number;
  memory: WebAssembly.Memory;
  /** Address of the threads' slots. */
  slots: number;
}

let scenesPacked = 0;

export function packScene({ geometry }: CompiledScene): PackedScene {
  const layout = layOut(geometry);
  const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: layout.pages, shared: true });
  layout.write(memory.buffer);
  return { key: ++scenesPacked, memory, slots: layout.slots };
}

let compiled: WebAssembly.Module | null = null;
function kernel(): WebAssembly.Module {
  // Built, this file is in dist/server; from source, in host.
  const place = ['../kernels/intersect.wasm', '../dist/kernels/intersect.wasm']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find(existsSync);
  if (!place) throw new Error('dist/kernels/intersect.wasm is not there: npm run build makes it');
  return (compiled ??= new WebAssembly.Module(readFileSync(place)));
}

/** This thread's ways into the scenes it works on, kept so that calls go into one instance and not into a new one for every tile. */
const ways = new Map<number, KernelIntersector>();
const WAYS_KEPT = 8;

/** The scene with rays that go through the kernel, for this thread alone. */
export function withKernel(scene: CompiledScene, packed: PackedScene): CompiledScene {
  const rays = ways.get(packed.key) ?? wayInto(packed);
  ways.delete(packed.key);
  ways.set(packed.key, rays);
  if (ways.size > WAYS_KEPT) ways.delete(ways.keys().next().value!);
  return { ...scene, rays };
}

function wayInto({ memory, slots }: PackedScene): KernelIntersector {
  const { exports } = new WebAssembly.Instance(kernel(), { env: { memory } });
  // Threads of a process have numbers of their own, and fewer of them live at a time than there are slots.
  return new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, slots, threadId % SLOTS);
}
