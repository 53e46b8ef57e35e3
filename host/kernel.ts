/** The WebAssembly kernels on Node: what they lend to compiling a scene, its memory, made once a process, and each thread's way into it. */
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { threadId } from 'node:worker_threads';
import type { BuildBvh } from '../core/geometry/bvh-build.ts';
import { KeptParts } from '../core/geometry/kept-parts.ts';
import { kernelBuilder, type BuildKernel } from '../core/geometry/kernel-builder.ts';
import { kernelMeans, type ExrMeans, type UnpackKernel } from '../core/formats/exr/unpack-kernel.ts';
import { KernelIntersector, type IntersectKernel } from '../core/geometry/kernel-intersector.ts';
import { layOut, SLOTS } from '../core/geometry/packed-geometry.ts';
import { isSameGeometry, type Means } from '../core/geometry/scene-geometry.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import type { Assets } from '../core/render/compile/assets.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import type { SceneSheet } from '../core/render/scene/scene-sheet.ts';
import type { CompiledScene } from '../core/render/scene/scene.ts';

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

const compiled = new Map<string, WebAssembly.Module>();
function kernel(name: 'intersect' | 'build-bvh' | 'unpack-exr'): WebAssembly.Module {
  const known = compiled.get(name);
  if (known) return known;
  // Built, this file is in dist/server; from source, in host.
  const place = [`../kernels/${name}.wasm`, `../dist/kernels/${name}.wasm`]
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find(existsSync);
  if (!place) throw new Error(`dist/kernels/${name}.wasm is not there: npm run build makes it`);
  const module = new WebAssembly.Module(readFileSync(place));
  compiled.set(name, module);
  return module;
}

/** The builder of trees and its memory, kept for the next scene unless it grew beyond this many bytes. */
let builder: BuildKernel | null = null;
const BUILDER_KEPT = 2 ** 28;

const buildInKernel: BuildBvh = (boxes, leafSize, allocate) => {
  builder ??= newBuilder();
  const bvh = kernelBuilder(builder)(boxes, leafSize, allocate);
  if (builder.memory.buffer.byteLength > BUILDER_KEPT) builder = null;
  return bvh;
};

function newBuilder(): BuildKernel {
  const memory = new WebAssembly.Memory({ initial: 1, maximum: 65536, shared: true });
  const { exports } = new WebAssembly.Instance(kernel('build-bvh'), { env: { memory } });
  // The types of Node leave out that memories grow.
  return { memory: memory as unknown as BuildKernel['memory'], build: exports.build as BuildKernel['build'] };
}

/** Memory that threads can share, and trees built by the kernel. */
export const lentByHost: Means = {
  allocate: (bytes) => new SharedArrayBuffer(bytes),
  buildBvh: buildInKernel,
  kept: new KeptParts(),
};

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

/**
 * A scene for this thread alone, compiled and traced by the kernels.
 * @param like one of this thread: where rays meet the same in both, they go through its memory, and nothing is packed again
 */
export function compiledWithKernel(
  document: ShotDocument,
  assets: Assets,
  sheet: SceneSheet,
  like: CompiledScene | null = null,
): CompiledScene {
  const scene = compileScene(document, assets, sheet, lentByHost);
  const rays = like?.rays && isSameGeometry(like.geometry, scene.geometry) ? like.rays : wayInto(packScene(scene));
  return { ...scene, rays };
}

function wayInto({ memory, slots }: PackedScene): KernelIntersector {
  const { exports } = new WebAssembly.Instance(kernel('intersect'), { env: { memory } });
  // Threads of a process have numbers of their own, and fewer of them live at a time than there are slots.
  return new KernelIntersector(exports as unknown as IntersectKernel, memory.buffer, slots, threadId % SLOTS);
}

let unpacking: ExrMeans | null = null;

/** What EXR files are read with, for this thread alone. */
export function exrMeans(): ExrMeans {
  if (unpacking) return unpacking;
  const memory = new WebAssembly.Memory({ initial: 64, maximum: 65536, shared: true });
  const { exports } = new WebAssembly.Instance(kernel('unpack-exr'), { env: { memory } });
  // The types of Node leave out that memories grow.
  unpacking = kernelMeans({ ...exports, memory: memory as unknown as UnpackKernel['memory'] } as UnpackKernel);
  return unpacking;
}
