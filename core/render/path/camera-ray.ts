/**
 * Rays from the camera through a pixel's filter and the thin lens before it, and where the camera sees a point.
 *
 * Rays begin at the near plane, so that what is nearer is not met by any. A lens of some width sends rays from all of it
 * through the point that its middle sees in the plane of focus. Source: Cook, Porter & Carpenter, "Distributed Ray
 * Tracing", SIGGRAPH 1984.
 */
import type { i32 } from '../../data/numbers.ts';
import { FilterSampler } from '../film/pixel-filter.ts';
import type { PathState } from './path-state.ts';
import { turn } from '../../data/turns.ts';
import { dimension, SLOT_FILTER, SLOT_LENS, type GroupRandom } from '../film/random.ts';
import type { PathSettings } from '../scene/path-settings.ts';
import {
  CAMERA_AHEAD,
  CAMERA_FAR,
  CAMERA_FOCUS,
  CAMERA_LENS,
  CAMERA_NEAR,
  CAMERA_RIGHT,
  CAMERA_UP,
  type CompiledScene,
} from '../scene/scene.ts';

export class CameraRay {
  private readonly filter: FilterSampler;
  /** Growth of a pixel's cone, metres a metre. */
  private readonly pixel: number;
  /** Lengths of the directions of right and up. */
  private readonly wide: number;
  private readonly high: number;
  private readonly disc = new Float64Array(2);

  constructor(
    private readonly scene: CompiledScene,
    private readonly settings: PathSettings,
    private readonly random: GroupRandom,
  ) {
    this.filter = new FilterSampler(settings.filter);
    const { camera } = scene;
    const up = Math.sqrt(camera[6] * camera[6] + camera[7] * camera[7] + camera[8] * camera[8]);
    this.wide = Math.sqrt(camera[3] * camera[3] + camera[4] * camera[4] + camera[5] * camera[5]);
    this.high = up;
    this.pixel = (2 * up) / settings.height;
  }

  /** Sets the path's ray, its far end, cone and weight for a sample of pixel (x, y). */
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
    // A step along the ray by which it comes one metre further along the camera's axis.
    let dx = camera[CAMERA_AHEAD] + px * camera[CAMERA_RIGHT] + py * camera[CAMERA_UP];
    let dy = camera[CAMERA_AHEAD + 1] + px * camera[CAMERA_RIGHT + 1] + py * camera[CAMERA_UP + 1];
    let dz = camera[CAMERA_AHEAD + 2] + px * camera[CAMERA_RIGHT + 2] + py * camera[CAMERA_UP + 2];
    ray[0] = camera[0];
    ray[1] = camera[1];
    ray[2] = camera[2];
    if (camera[CAMERA_LENS] > 0) {
      random.draw(dimension(0, SLOT_LENS), 0);
      turn(random.v, this.disc);
      const r = camera[CAMERA_LENS] * Math.sqrt(random.u);
      const a = (r * this.disc[0]) / this.wide;
      const b = (r * this.disc[1]) / this.high;
      const x = a * camera[CAMERA_RIGHT] + b * camera[CAMERA_UP];
      const y = a * camera[CAMERA_RIGHT + 1] + b * camera[CAMERA_UP + 1];
      const z = a * camera[CAMERA_RIGHT + 2] + b * camera[CAMERA_UP + 2];
      ray[0] += x;
      ray[1] += y;
      ray[2] += z;
      dx -= x / camera[CAMERA_FOCUS];
      dy -= y / camera[CAMERA_FOCUS];
      dz -= z / camera[CAMERA_FOCUS];
    }
    const near = camera[CAMERA_NEAR];
    const step = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const l = 1 / step;
    ray[0] += near * dx;
    ray[1] += near * dy;
    ray[2] += near * dz;
    ray[3] = dx * l;
    ray[4] = dy * l;
    ray[5] = dz * l;
    if (single) for (let a = 0; a < 6; a++) ray[a] = Math.fround(ray[a]);
    path.length = near * step;
    path.far = (camera[CAMERA_FAR] - near) * step;
    path.width = this.pixel * path.length;
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
