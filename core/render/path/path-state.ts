/** The path being followed: its ray, its weight, what has happened on it. */
import type { f64, i32 } from '../../data/numbers.ts';
import { KINDS, DIFFUSE, SPECULAR, TRANSMISSION } from '../../materials/surface.ts';
import { STAGE_CAMERA, type EventCounts } from './recorder.ts';

/** Growth of the cone around a ray after a diffuse or fog event, metres a metre. */
export const WIDE = 0.3;

export class PathState implements EventCounts {
  /** Origin, unit direction. */
  readonly ray = new Float64Array(6);
  /** Throughput, with absorption on the way. */
  readonly beta = new Float64Array(3);
  diffuse: i32 = 0;
  specular: i32 = 0;
  transmission: i32 = 0;
  volume: i32 = 0;
  alpha: i32 = 0;
  /** Events that spread: diffuse, fog, rough reflections and transmissions. */
  scattered: i32 = 0;
  /** Kind of the first event, −1 before it. */
  firstKind: i32 = -1;
  /** Kind of the last event, −1 before the first. */
  lastKind: i32 = -1;
  /** All events so far were transmissions. */
  straight = true;
  /** Share of the camera sample this path stands for: pixel filter and splits. */
  weight: f64 = 1;
  splitIndex: i32 = 0;
  /** Density of the last sampled direction, 1/sr; 0 for a sharp lobe or a camera ray. */
  density: f64 = 0;
  /** Object of the last event, −1 in fog and before the first. */
  object: i32 = -1;
  /** The last event's object is lit through whatever stands between. */
  unshaded = false;
  /** Shadow rays have covered the straight way from the last event through see-through glass. */
  covered = false;
  /** See-through faces passed since. */
  through: i32 = 0;
  /** Metres since the last diffuse or fog event, or the camera. */
  length: f64 = 0;
  /** Metres from the ray's origin to the camera's far plane; it bounds rays before the first event. */
  far: f64 = Infinity;
  /** Width of the cone around the ray at its origin, metres, and its growth a metre. */
  width: f64 = 0;
  spread: f64 = 0;
  /** Kinds of the events in order, see `signature.ts`. */
  signature: i32 = 0;
  /** Objects met first and second, −1 for none. */
  firstObject: i32 = -1;
  secondObject: i32 = -1;

  /** Back to the camera; the ray, the cone and the weight are the caller's to set. */
  begin(): void {
    this.beta.fill(1);
    this.diffuse = this.specular = this.transmission = this.volume = this.alpha = this.scattered = 0;
    this.firstKind = this.lastKind = -1;
    this.straight = true;
    this.density = 0;
    this.object = -1;
    this.unshaded = false;
    this.covered = false;
    this.through = 0;
    this.length = 0;
    this.signature = 0;
    this.firstObject = this.secondObject = -1;
  }

  /** Events that the overall limit counts. */
  get total(): i32 {
    return this.diffuse + this.specular + this.transmission + this.volume;
  }

  /** Diffuse and fog events: those by which an emitter lights something. */
  get bounces(): i32 {
    return this.diffuse + this.volume;
  }

  get stage(): i32 {
    return this.firstKind < 0 ? STAGE_CAMERA : this.firstKind;
  }

  count(kind: i32): i32 {
    return kind === DIFFUSE
      ? this.diffuse
      : kind === SPECULAR
        ? this.specular
        : kind === TRANSMISSION
          ? this.transmission
          : this.volume;
  }

  /** Adds `by` to the count of a kind. */
  step(kind: i32, by: i32): void {
    if (kind === DIFFUSE) this.diffuse += by;
    else if (kind === SPECULAR) this.specular += by;
    else if (kind === TRANSMISSION) this.transmission += by;
    else if (kind < KINDS) this.volume += by;
  }
}
