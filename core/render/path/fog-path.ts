/** What fog does to a path: dims the camera ray, and scatters the rays that come after. */
import type { f64 } from '../../data/numbers.ts';
import { turn } from '../../data/turns.ts';
import { henyeyGreenstein, sampleHenyeyGreenstein } from '../../materials/phase.ts';
import { VOLUME } from '../../materials/surface.ts';
import { FOG_ALBEDO, FOG_ANISOTROPY, FogInterval } from '../scene/fog.ts';
import type { PathContext } from './path-context.ts';
import type { PathLimits } from './path-limits.ts';
import { WIDE, type PathState } from './path-state.ts';
import { dimension, SLOT_FOG, SLOT_FOG_DIRECTION, type GroupRandom } from '../film/random.ts';
import { extend } from './signature.ts';

export class FogPath {
  /** Where the present event is. */
  readonly point = new Float64Array(3);

  private readonly turned = new Float64Array(2);
  private readonly interval: FogInterval;
  /** The camera ray, and the distances between which it is in fog. */
  private readonly cameraRay = new Float64Array(6);
  private near: f64 = 0;
  private far: f64 = 0;

  private readonly path: PathState;
  private readonly random: GroupRandom;

  constructor(
    private readonly fog: Float64Array,
    { path, random }: Pick<PathContext, 'path' | 'random'>,
    private readonly limits: PathLimits,
  ) {
    this.path = path;
    this.random = random;
    this.interval = new FogInterval(fog);
  }

  /** Takes the camera ray that a sample begins with. */
  begin(): void {
    this.cameraRay.set(this.path.ray);
    this.near = this.far = 0;
  }

  /** The camera ray has run through fog, which has samples of its own beside the first hit's. */
  get isBeforeCamera(): boolean {
    return this.far > this.near;
  }

  /** Whether the ray scatters before `end`. The camera ray is only dimmed: its fog has samples of its own. */
  meets(end: number): boolean {
    const { path, random, fog, interval } = this;
    const { ray, beta } = path;
    interval.set(ray, end);
    const isCamera = path.firstKind < 0;
    if (isCamera) {
      this.near = interval.near;
      this.far = interval.far;
    }
    if (!(interval.far > interval.near)) return false;
    if (isCamera) {
      const { through } = interval;
      for (let a = 0; a < 3; a++) beta[a] *= through;
      return false;
    }
    random.draw(dimension(path.total, SLOT_FOG), path.splitIndex);
    const t = interval.place(random.u);
    if (!(t < interval.far)) return false;
    this.arrive(t);
    for (let a = 0; a < 3; a++) beta[a] *= fog[FOG_ALBEDO + a];
    if (this.limits.allows(VOLUME)) return true;
    this.limits.cut(VOLUME);
    beta.fill(0);
    return false;
  }

  private arrive(t: number): void {
    const { path, point } = this;
    for (let a = 0; a < 3; a++) point[a] = path.ray[a] + t * path.ray[3 + a];
    path.length += t;
    path.width += path.spread * t;
  }

  /** One sample of the fog that the camera ray runs through: an event on it; false when limits forbid it. */
  startOnCameraRay(): boolean {
    const { path, random, fog, interval } = this;
    path.ray.set(this.cameraRay);
    interval.near = this.near;
    interval.far = this.far;
    const share = 1 - interval.through;
    for (let a = 0; a < 3; a++) path.beta[a] = share * fog[FOG_ALBEDO + a];
    if (!this.limits.allows(VOLUME)) {
      this.limits.cut(VOLUME);
      return false;
    }
    random.draw(dimension(0, SLOT_FOG), path.splitIndex);
    this.arrive(interval.placeWithin(random.u));
    return true;
  }

  /** An event in fog, which limits have allowed: turns the ray. */
  scatter(): void {
    const { path, random, point, fog } = this;
    const { ray } = path;
    const g = fog[FOG_ANISOTROPY];
    random.draw(dimension(path.total, SLOT_FOG_DIRECTION), path.splitIndex);
    const cosine = sampleHenyeyGreenstein(random.u, g);
    const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine));
    const x = ray[3];
    const y = ray[4];
    const z = ray[5];
    const s = z >= 0 ? 1 : -1;
    const a = -1 / (s + z);
    const b = x * y * a;
    turn(random.v, this.turned);
    const p = sine * this.turned[0];
    const q = sine * this.turned[1];
    for (let k = 0; k < 3; k++) ray[k] = point[k];
    ray[3] = p * (1 + s * x * x * a) + q * b + cosine * x;
    ray[4] = p * s * b + q * (s + y * y * a) + cosine * y;
    ray[5] = -p * s * x - q * y + cosine * z;
    if (path.firstKind < 0) path.firstKind = VOLUME;
    path.lastKind = VOLUME;
    path.volume++;
    path.scattered++;
    path.signature = extend(path.signature, VOLUME);
    path.straight = false;
    path.density = henyeyGreenstein(cosine, g);
    path.object = -1;
    path.unshaded = false;
    path.covered = true;
    path.through = 0;
    path.length = 0;
    path.spread = WIDE;
  }
}
