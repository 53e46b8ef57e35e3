/**
 * Paths traced by the WebAssembly kernel, `core/kernels/render`: the same program as `Integrator`, lowered, and the same
 * bits. A scene's structures are written once into the memory that holds its packed geometry; each thread has an instance
 * of the kernel on it, and in its slot an arena for what the tracer itself needs.
 *
 * @example
 * const place = places.place(scene, null);
 * scene.kernel = new ThreadKernel(exports, place, layouts, slot, place.at);
 */
import { StructureWriter, type Layouts } from '../../data/structures.ts';
import { KernelIntersector, type IntersectKernel } from '../../geometry/kernel-intersector.ts';
import { SLOT_ARENA, SLOT_BYTES, type GrowingMemory } from '../../geometry/packed-geometry.ts';
import { RAY_NAMES } from './collector.ts';
import { BRIGHTEST } from '../film/passes.ts';
import { GROUP } from '../film/random.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { GroupTracer, SceneKernel } from '../scene/scene-kernel.ts';
import type { SceneMemory } from './scene-places.ts';

/** Exports of the kernel; see `core/kernels/render/assembly.ts`. */
export interface RenderKernel extends IntersectKernel {
  begin(scene: number, settings: number, slot: number, arena: number, end: number): void;
  group(x: number, y: number, number: number): void;
  expect(object: number, material: number): void;
  crossings(x: number, y: number, crossed: number): number;
  sums(): number;
  brightest(): number;
  rays(): number;
  ids(): number;
}

/** Functions that it takes from its host, for the same bits as in TypeScript. */
export const KERNEL_IMPORTS = { math: { sin: Math.sin, cos: Math.cos, exp: Math.exp, log1p: Math.log1p, log: Math.log, acos: Math.acos, asin: Math.asin, atan2: Math.atan2 } }; // prettier-ignore

/** What a tracer takes but for its sums, several times over. */
const TRACER_BYTES = 16384;

/** Instances of faces that are told one by one. */
const MOST_CROSSED = 1024;

export class ThreadKernel implements SceneKernel {
  readonly rays: KernelIntersector;

  /**
   * @param slot of this thread, below `SLOTS`; no two threads of a process may share one
   * @param scene address of its structures
   * @param like of the same instance: rays go through the same intersector
   */
  constructor(
    readonly kernel: RenderKernel,
    readonly place: SceneMemory,
    readonly layouts: Layouts,
    readonly slot: number,
    private readonly scene: number,
    like: ThreadKernel | null = null,
  ) {
    this.rays = like?.rays ?? new KernelIntersector(kernel, place.memory.buffer, place.slots, slot);
  }

  /** The kernel of another scene in the same memory. */
  for(scene: number): ThreadKernel {
    return new ThreadKernel(this.kernel, this.place, this.layouts, this.slot, scene, this);
  }

  tracer(settings: PathSettings): GroupTracer | null {
    const { memory, slots } = this.place;
    const slot = slots + this.slot * SLOT_BYTES;
    const end = slot + SLOT_BYTES;
    let next = slot + SLOT_ARENA + 16;
    const reserveInArena = (bytes: number) => {
      const at = next;
      next += Math.ceil(bytes / 16) * 16 + 16;
      return at;
    };
    const crossed = reserveInArena(MOST_CROSSED * 4);
    const written = new StructureWriter(this.layouts, memory, reserveInArena).write('PathSettings', settings);
    if (next + settings.sums.size * 8 + TRACER_BYTES > end) return null;
    this.kernel.begin(this.scene, written, this.slot, next, end);
    return new KernelTracer(this.kernel, memory, settings.sums.size, crossed);
  }
}

class KernelTracer implements GroupTracer {
  readonly sums: Float64Array;
  readonly brightest: Float64Array;
  readonly ids: Float64Array;
  readonly raysByKind: Float64Array;

  constructor(
    private readonly kernel: RenderKernel,
    private readonly memory: GrowingMemory,
    size: number,
    private readonly crossed: number,
  ) {
    const { buffer } = memory;
    this.sums = new Float64Array(buffer, kernel.sums(), size);
    this.brightest = new Float64Array(buffer, kernel.brightest(), BRIGHTEST);
    this.ids = new Float64Array(buffer, kernel.ids(), GROUP * 2);
    this.raysByKind = new Float64Array(buffer, kernel.rays(), RAY_NAMES.length);
  }

  group(x: number, y: number, group: number): void {
    this.kernel.group(x, y, group);
  }

  expect(object: number, material: number): void {
    this.kernel.expect(object, material);
  }

  crossings(x: number, y: number, crossed: Int32Array): number {
    const room = Math.min(MOST_CROSSED, crossed.length);
    const { buffer } = this.memory;
    new Int32Array(buffer, this.crossed - 8, 1)[0] = room;
    const faces = this.kernel.crossings(x, y, this.crossed);
    crossed.set(new Int32Array(buffer, this.crossed, Math.min(room, faces)));
    return faces;
  }
}
