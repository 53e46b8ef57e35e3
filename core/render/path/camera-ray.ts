/** Rays from the camera through a pixel's filter, and where the camera sees a point. */
import type { i32 } from '../../data/numbers.ts';
import { FilterSampler } from '../film/pixel-filter.ts';
import type { PathState } from './path-state.ts';
import { dimension, SLOT_FILTER, type GroupRandom } from '../film/random.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import type { CompiledScene } from '../scene/scene.ts';

export class CameraRay {
  private readonly filter: FilterSampler;
  /** Growth of a pixel's cone, metres a metre. */
  private readonly pixel: number;

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: PathSettings,
    private readonly random: GroupRandom,
  ) {
    this.filter = new FilterSampler(settings.filter);
    const { camera } = scene;
    const up = Math.sqrt(camera[6] * camera[6] + camera[7] * camera[7] + camera[8] * camera[8]);
    this.pixel = (2 * up) / settings.height;
  }

  /** Sets the path's ray, cone and weight for a sample of pixel (x, y). */
  start(path: PathState, x: i32, y: i32): void {
    const { camera, single } = this.scene;
    const { width, height } = this.settings;
    const { random, filter } = this;
    const { ray } = path;
    random.draw(dimension(0, SLOT_FILTER), 0);
    const px = (2 * (x + 0.5 + filter.offset(random.u))) / width - 1;
    path.weight = filter.sign;
    const py = 1 - (2 * (y + 0.5 + filter.offset(random.v))) / height;
    path.weight *= filter.sign * filter.scale;
    const dx = camera[9] + px * camera[3] + py * camera[6];
    const dy = camera[10] + px * camera[4] + py * camera[7];
    const dz = camera[11] + px * camera[5] + py * camera[8];
    const l = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
    ray[0] = camera[0];
    ray[1] = camera[1];
    ray[2] = camera[2];
    ray[3] = dx * l;
    ray[4] = dy * l;
    ray[5] = dz * l;
    if (single) for (let a = 0; a < 6; a++) ray[a] = Math.fround(ray[a]);
    path.width = 0;
    path.spread = this.pixel;
  }

  /** Writes where the frame shows a world point to `out[at..at+1]`, pixels from the top left. */
  place(x: number, y: number, z: number, out: Float64Array, at: i32): void {
    const { camera: c } = this.scene;
    const dx = x - c[0];
    const dy = y - c[1];
    const dz = z - c[2];
    const depth = dx * c[9] + dy * c[10] + dz * c[11];
    const px = (dx * c[3] + dy * c[4] + dz * c[5]) / ((c[3] * c[3] + c[4] * c[4] + c[5] * c[5]) * depth);
    const py = (dx * c[6] + dy * c[7] + dz * c[8]) / ((c[6] * c[6] + c[7] * c[7] + c[8] * c[8]) * depth);
    out[at] = ((px + 1) / 2) * this.settings.width;
    out[at + 1] = ((1 - py) / 2) * this.settings.height;
  }
}
