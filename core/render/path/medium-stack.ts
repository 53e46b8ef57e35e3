/**
 * The closed glass bodies a ray is inside of, and which of them is really there.
 * Source: Schmidt & Budge, "Simple Nested Dielectrics in Ray Traced Images", 2002. Here the higher
 * priority is the one that is there.
 */
import type { i32 } from '../../data/numbers.ts';
import { MATERIAL_IOR, MATERIAL_STRIDE } from '../scene/material-row.ts';
import type { CompiledScene } from '../scene/scene.ts';

const DEPTH = 32;

export class MediumStack {
  private readonly instances = new Int32Array(DEPTH);
  private size: i32 = 0;

  constructor(private readonly scene: CompiledScene) {}

  clear(): void {
    this.size = 0;
  }

  copy(from: MediumStack): void {
    this.size = from.size;
    for (let i = 0; i < from.size; i++) this.instances[i] = from.instances[i];
  }

  /** Instance of the body the ray is in, or −1 for air. */
  inside(): i32 {
    return this.highest(-1);
  }

  /** Whether a face of `instance` is there, or hidden inside a body of higher priority. */
  isFace(instance: i32, entering: boolean): boolean {
    const other = this.highest(entering ? -1 : instance);
    return other < 0 || this.scene.instancePriority[other] <= this.scene.instancePriority[instance];
  }

  /** Index of refraction behind a face over that in front of it, for a ray that meets it. */
  eta(instance: i32, entering: boolean): number {
    const own = this.ior(instance);
    const other = this.ior(this.highest(entering ? -1 : instance));
    return entering ? own / other : other / own;
  }

  /** Notes that the ray passed a face of `instance`. */
  cross(instance: i32, entering: boolean): void {
    const { instances } = this;
    if (entering) {
      if (this.size < DEPTH) instances[this.size++] = instance;
      return;
    }
    for (let i = this.size - 1; i >= 0; i--) {
      if (instances[i] !== instance) continue;
      for (let k = i + 1; k < this.size; k++) instances[k - 1] = instances[k];
      this.size--;
      return;
    }
  }

  /** The entered instance of highest priority, the latest of equals, leaving one out. */
  private highest(except: i32): i32 {
    const { instances, size } = this;
    const { instancePriority } = this.scene;
    let best = -1;
    for (let i = 0; i < size; i++) {
      const instance = instances[i];
      if (instance === except) continue;
      if (best < 0 || instancePriority[instance] >= instancePriority[best]) best = instance;
    }
    return best;
  }

  private ior(instance: i32): number {
    if (instance < 0) return 1;
    const { instanceMaterial, materials } = this.scene;
    return materials[instanceMaterial[instance] * MATERIAL_STRIDE + MATERIAL_IOR];
  }
}
