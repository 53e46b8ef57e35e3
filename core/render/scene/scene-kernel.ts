/** What a host that has the WebAssembly kernel lends to a scene, for one thread. */
import type { i32 } from '../../data/numbers.ts';
import type { Intersector } from '../../geometry/intersector.ts';
import type { PathSettings } from './path-settings.ts';

/** Traces the groups of samples that films are made of. */
export interface GroupTracer {
  /** Of the last group: sums and not means, laid out as `passes.ts` tells. */
  readonly sums: Float64Array;
  /** Its brightest contribution, see `BRIGHTEST`. */
  readonly brightest: Float64Array;
  /** Object and material + 1 that each of its samples met first, 0 for none. */
  readonly ids: Float64Array;
  /** Rays traced so far, by `RAY_NAMES`. */
  readonly raysByKind: Float64Array;
  /** Traces a group of pixel (x, y) of the full frame. */
  group(x: i32, y: i32, group: i32): void;
  /** Ids whose samples count as the pixel's own; set before a group. */
  expect(object: i32, material: i32): void;
  /**
   * Glass faces that a straight path along the first sample's camera ray passes before something opaque.
   * @param crossed filled with the instance of each face, in order, as far as there is room
   */
  crossings(x: i32, y: i32, crossed: Int32Array): i32;
}

export interface SceneKernel {
  rays: Intersector;
  /** A tracer of the scene; the one made before is gone. Null where a pixel has more sums than a thread has room for. */
  tracer(settings: PathSettings): GroupTracer | null;
}
