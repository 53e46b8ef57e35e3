/** What a check is and what it says. A new one is a file below `checks/` and a line in `registry.ts`. */
import type { JsonPatch } from '../../document/patch.ts';
import type { Scene } from './scene.ts';
import type { Threshold } from './profile.ts';

export type CheckGroup =
  'time' | 'picture' | 'travel' | 'weight' | 'light' | 'space' | 'shape' | 'surface' | 'order' | 'sheet';

export type CheckState = 'clear' | 'caution' | 'stop' | 'not-run';

/** One thing that is not as expected. */
export interface Offender {
  /** Path of the object in the scene, or what else it is. */
  object: string;
  detail: string;
  /** How many of it are there: edges, faces, tiles. */
  count: number;
}

/** What would put it right: a patch of the document, undone like any other. */
export interface Repair {
  label: string;
  patch: JsonPatch;
}

/** What a check found, before its thresholds are laid on. */
export interface Finding {
  expected: string;
  found: string;
  offenders: Offender[];
  /** Compared with the thresholds; by default the number of offenders. */
  amount?: number;
  repair?: Repair | null;
}

export interface Check {
  /** Scripts rely on it. */
  id: string;
  group: CheckGroup;
  title: string;
  /** Why it matters, for people who ask. */
  why: string;
  /** Where a profile says nothing else. The amount that counts is at least the figure. */
  threshold: Threshold;
  /** Why it cannot run here, or what it found. */
  run(scene: Scene): Finding | string;
}

export interface CheckResult {
  id: string;
  group: CheckGroup;
  title: string;
  why: string;
  state: CheckState;
  expected: string;
  found: string;
  offenders: Offender[];
  repair: Repair | null;
}

/** Nothing wrong, or a stop. */
export const STOP: Threshold = { caution: null, stop: 1 };
/** Nothing wrong, or a caution. */
export const CAUTION: Threshold = { caution: 1, stop: null };
