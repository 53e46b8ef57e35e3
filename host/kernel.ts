/** The WebAssembly kernels on Node: what they lend to compiling a scene, its memory, made once a process, and each thread's way into it. */
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { threadId } from 'node:worker_threads';
import { LRUCache } from 'lru-cache';
import type { BuildBvh } from '../core/geometry/bvh-build.ts';
import { KeptParts } from '../core/geometry/kept-parts.ts';
import { kernelBuilder, type BuildKernel } from '../core/geometry/kernel-builder.ts';
import { kernelMeans, type ExrMeans, type UnpackKernel } from '../core/formats/exr/unpack-kernel.ts';
import { kernelPlanes, PLANE_PAGES, type PlaneKernel } from '../core/picture/plane-kernel.ts';
import type { PlaneMeans } from '../core/picture/plane-means.ts';
import { layoutsOf, type Layouts } from '../core/data/structures.ts';
import { MOST_PAGES, SLOTS, type GrowingMemory } from '../core/geometry/packed-geometry.ts';
import type { Means } from '../core/geometry/scene-geometry.ts';
import type { ShotDocument } from '../core/document/schema.ts';
import type { Assets } from '../core/render/compile/assets.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import { KERNEL_IMPORTS, ThreadKernel, type RenderKernel } from '../core/render/path/kernel-tracer.ts';
import { ScenePlaces, type ScenePlace } from '../core/render/path/scene-places.ts';
import type { SceneSheet } from '../core/render/scene/scene-sheet.ts';
import type { CompiledScene } from '../core/render/scene/scene.ts';

export interface PackedScene extends ScenePlace<Memory> {
  /** Tells memories of a process apart, whichever of its threads made them. */
  key: string;
}

let memoriesMade = 0;

type Memory = WebAssembly.Memory & GrowingMemory;

/** The types of Node leave out that memories grow. */
const newMemory = (pages: number): Memory =>
  new WebAssembly.Memory({ initial: pages, maximum: MOST_PAGES, shared: true }) as Memory;

let structures: Layouts | null = null;
function layouts(): Layouts {
  // The types of Node leave out that modules tell their sections.
  const { customSections } = WebAssembly.Module as unknown as {
    customSections(of: WebAssembly.Module, name: string): ArrayBuffer[];
  };
  return (structures ??= layoutsOf(customSections(kernel('render'), 'structures')));
}

let places: ScenePlaces<Memory> | null = null;

/**
 * A scene in memory that the kernel reads.
 * @param like where rays meet the same in both scenes, they share its memory
 */
export function packScene(
  scene: CompiledScene,
  like: { scene: CompiledScene; packed: Omit<PackedScene, 'at'> } | null = null,
): PackedScene {
  places ??= new ScenePlaces(layouts(), newMemory);
  const place = places.place(scene, like && { geometry: like.scene.geometry, place: like.packed });
  const key = place.memory === like?.packed.memory ? like.packed.key : `${threadId}.${++memoriesMade}`;
  return { ...place, key };
}

const compiled = new Map<string, WebAssembly.Module>();
function kernel(name: 'render' | 'build-bvh' | 'unpack-exr' | 'measure-planes'): WebAssembly.Module {
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
  const memory = newMemory(1);
  const { exports } = new WebAssembly.Instance(kernel('build-bvh'), { env: { memory } });
  return { memory, build: exports.build as BuildKernel['build'] };
}

/** Memory that threads can share, and trees built by the kernel. */
export const lentByHost: Means = {
  allocate: (bytes) => new SharedArrayBuffer(bytes),
  buildBvh: buildInKernel,
  kept: new KeptParts(),
};

/** This thread's ways into the scenes it works on, kept so that calls go into one instance and not into a new one for every tile. */
const ways = new LRUCache<string, ThreadKernel>({ max: 8 });

/** The scene with paths that go through the kernel, for this thread alone. */
export function withKernel(scene: CompiledScene, packed: PackedScene): CompiledScene {
  const way = ways.get(packed.key) ?? wayInto(packed);
  ways.set(packed.key, way);
  return { ...scene, kernel: way.for(packed.at) };
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
  return withKernel(scene, packScene(scene, like && placeOf(like)));
}

/** Where a scene of this thread stands, or null when the way there is kept no longer. */
function placeOf(scene: CompiledScene): Parameters<typeof packScene>[1] {
  const place = scene.kernel instanceof ThreadKernel ? scene.kernel.place : null;
  const [key] = [...ways].find(([, way]) => way.place === place) ?? [];
  if (place === null || key === undefined) return null;
  return { scene, packed: { key, memory: place.memory as Memory, slots: place.slots } };
}

function wayInto(packed: PackedScene): ThreadKernel {
  const { exports } = new WebAssembly.Instance(kernel('render'), { env: { memory: packed.memory }, ...KERNEL_IMPORTS });
  // Threads of a process have numbers of their own, and fewer of them live at a time than there are slots.
  return new ThreadKernel(exports as unknown as RenderKernel, packed, layouts(), threadId % SLOTS, packed.at);
}

let unpacking: ExrMeans | null = null;

/** What EXR files are read with, for this thread alone. */
export function exrMeans(): ExrMeans {
  if (unpacking) return unpacking;
  const memory = newMemory(64);
  const { exports } = new WebAssembly.Instance(kernel('unpack-exr'), { env: { memory } });
  unpacking = kernelMeans({ ...exports, memory } as UnpackKernel);
  return unpacking;
}

let measuring: PlaneMeans | null = null;

/** What pictures are examined with, for this thread alone. */
export function planeMeans(): PlaneMeans {
  if (measuring) return measuring;
  const memory = newMemory(PLANE_PAGES);
  const { exports } = new WebAssembly.Instance(kernel('measure-planes'), { env: { memory } });
  measuring = kernelPlanes({ ...exports, memory } as unknown as PlaneKernel);
  return measuring;
}
