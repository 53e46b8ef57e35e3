import { KINDS } from '../../materials/surface.ts';
import type { PathState } from './path-state.ts';

/** How many events of each kind a contribution or a ray needed. */
export interface EventCounts {
  diffuse: number;
  specular: number;
  transmission: number;
  volume: number;
  /** See-through surfaces passed. */
  alpha: number;
}

/**
 * Notes, for each thing a path brings or costs, by which of the first hit's samples it came and how many
 * events of each kind it needed. With limits lifted, brightness and cost at any limits can be read off
 * afterwards (see `predict/limit-pilot.ts`).
 */
export interface Recorder {
  /**
   * @param stage which samples it came by, see the STAGE_… numbers
   * @param counts valid during the call only
   * @param value luminance added to the sample, after split and roulette weights
   * @param light row of the light's table, −1 for none
   */
  contribution(stage: number, counts: EventCounts, value: number, light: number): void;
  /** A ray that is traced only if these many events are allowed. */
  ray(stage: number, counts: EventCounts): void;
  /**
   * The path has scattered, and lives on. For debug views: pilots leave it out.
   * @param kind of the event. @param instance whose surface it was at, −1 in fog. @param point where, in the world, valid during the call only
   */
  event(kind: number, instance: number, point: ArrayLike<number>, path: PathState): void;
  /** A shadow ray after these events that serves a diffuse and a specular one at once: traced if either is allowed. */
  sharedRay(stage: number, counts: EventCounts): void;
}

/** Stages: kinds 0–3 for what follows the first hit's diffuse, specular, transmitted or fog sample. */
export const STAGE_LIGHT = KINDS;
export const STAGE_CAMERA = KINDS + 1;
export const STAGES = KINDS + 2;
