/**
 * Where scenes stand in memory that the kernel reads. Scenes of the same geometry share a memory: the packed trees are written
 * once, and each scene's structures behind them. What stood there is never taken back one by one; a memory that has grown by
 * as much as it is worth is left, and goes with the last scene in it.
 *
 * @example
 * const places = new ScenePlaces(layouts, (pages) => new WebAssembly.Memory({ initial: pages, maximum: MOST_PAGES, shared: true }));
 * const place = places.place(scene, null);
 * const varied = places.place(other, { geometry: scene.geometry, place });
 */
import { StructureWriter, type Layouts } from '../../data/structures.ts';
import { layOut, reserve, reserved, type GrowingMemory } from '../../geometry/packed-geometry.ts';
import { isSameGeometry, type SceneGeometry } from '../../geometry/scene-geometry.ts';
import type { CompiledScene } from '../scene/scene.ts';

/** Memory with a scene's packed geometry. */
export interface SceneMemory<M extends GrowingMemory = GrowingMemory> {
  memory: M;
  /** Address of the threads' slots. */
  slots: number;
}

export interface ScenePlace<M extends GrowingMemory = GrowingMemory> extends SceneMemory<M> {
  /** Address of the scene's structures. */
  at: number;
}

/** Bytes of structures that a memory takes beyond its geometry, or as many again as that, before a new one is begun. */
const WORTH = 2 ** 28;

export class ScenePlaces<M extends GrowingMemory> {
  /** What this thread has written to each memory: what scenes share is written once. */
  private readonly written = new WeakMap<M, WeakMap<object, number>>();

  constructor(
    private readonly layouts: Layouts,
    private readonly newMemory: (pages: number) => M,
  ) {}

  /**
   * @param like a scene that stands somewhere; where rays meet the same in both they share its memory
   * @throws RangeError when even a memory of its own is too small
   */
  place(scene: CompiledScene, like: { geometry: SceneGeometry; place: SceneMemory<M> } | null): ScenePlace<M> {
    if (like && isSameGeometry(like.geometry, scene.geometry)) {
      const { memory, slots } = like.place;
      const beside = reserved(memory) - slots < Math.max(WORTH, slots) ? this.write(scene, memory) : null;
      if (beside !== null) return { memory, slots, at: beside };
    }
    const layout = layOut(scene.geometry);
    const memory = this.newMemory(layout.pages);
    layout.write(memory.buffer);
    const at = this.write(scene, memory);
    if (at === null) throw new RangeError('the scene does not fit into the 4 GB that its kernel can address');
    return { memory, slots: layout.slots, at };
  }

  /** @returns the address of the scene's structures, or null when the memory is full */
  private write(scene: CompiledScene, memory: M): number | null {
    const written = this.written.get(memory) ?? new WeakMap<object, number>();
    this.written.set(memory, written);
    try {
      const writer = new StructureWriter(this.layouts, memory, (bytes) => reserve(memory, bytes), written);
      return writer.write('CompiledScene', scene);
    } catch (error) {
      if (error instanceof RangeError) return null;
      throw error;
    }
  }
}
