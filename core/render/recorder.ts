/**
 * Notes, for each thing a path brings or costs, by which of the first hit's samples it came and how many
 * events of each kind it needed. With limits
 * lifted, brightness and cost at any limits can be read off afterwards (see `predict/limit-pilot.ts`).
 */
export interface Recorder {
  /**
   * @param stage which samples it came by, see the STAGE_… numbers
   * @param value luminance added to the sample, after split and roulette weights
   */
  contribution(stage: number, diffuse: number, specular: number, transmission: number, value: number): void;
  /** A ray that is traced only if these many events are allowed. */
  ray(stage: number, diffuse: number, specular: number, transmission: number): void;
  /** A shadow ray after these events that serves a diffuse and a specular one at once: traced if either is allowed. */
  sharedRay(stage: number, diffuse: number, specular: number, transmission: number): void;
}

/** Stages: kinds 0–2 for what follows the first hit's diffuse, specular or transmitted sample. */
export const STAGE_LIGHT = 3;
export const STAGE_CAMERA = 4;
export const STAGES = 5;
