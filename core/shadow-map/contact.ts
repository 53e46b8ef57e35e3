/**
 * Contact shadows as a preview has them: from a place towards the light on screen, until what the camera sees there is nearer
 * than the way is. What the camera does not see throws none, and what it sees is taken to be as thick as the way is long.
 */
import type { Triple } from '../data/placement.ts';
import type { SurfaceWalk } from '../place/surface-walk.ts';
import { CAMERA_AHEAD } from '../render/scene/scene.ts';
import { onWay, type TracedShadows } from './trace.ts';

const STEPS = 16;
/** Pixels that the way must lie behind what is seen. */
const BEHIND = 1.5;

export class ContactShadows {
  /** Metres along the camera's axis to what each pixel shows; NaN: not looked at yet. */
  private readonly seen: Float64Array;
  private readonly at: Triple = [0, 0, 0];

  constructor(private readonly walk: SurfaceWalk) {
    const { width, height } = walk.settings;
    this.seen = new Float64Array(width * height).fill(NaN);
  }

  /** Whether something on screen stands between a place and its light within `metres`. */
  holds(traced: TracedShadows, k: number, metres: number): boolean {
    const { walk, at } = this;
    const { width, height } = walk.settings;
    const { pixel } = traced.places[k].place;
    for (let step = 1; step <= STEPS; step++) {
      const on = walk.pixelOf(onWay(traced, k, (metres * step) / STEPS, at));
      if (!on) return false;
      const [x, y] = [Math.floor(on[0]), Math.floor(on[1])];
      if (x < 0 || y < 0 || x >= width || y >= height) return false;
      const behind = this.along(at) - this.depthOf(x, y);
      if (behind > BEHIND * pixel && behind < metres) return true;
    }
    return false;
  }

  private depthOf(x: number, y: number): number {
    const { seen, walk } = this;
    const k = y * walk.settings.width + x;
    if (Number.isNaN(seen[k])) {
      const place = walk.surfaceAt(x, y);
      seen[k] = place ? this.along(place.point) : Infinity;
    }
    return seen[k];
  }

  private along(point: Triple): number {
    const { camera } = this.walk.scene;
    let [sum, square] = [0, 0];
    for (let a = 0; a < 3; a++) {
      sum += (point[a] - camera[a]) * camera[CAMERA_AHEAD + a];
      square += camera[CAMERA_AHEAD + a] ** 2;
    }
    return sum / Math.sqrt(square);
  }
}
