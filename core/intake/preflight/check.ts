/** What a check is and what it says. A new one is a file below `checks/` and a line in `registry.ts`. */
import type { PreflightCheck, PreflightOffender, PreflightRepair, PreflightState } from '../../contracts/intake.ts';
import type { Scene } from './scene.ts';
import type { Threshold } from './profile.ts';

export type CheckGroup =
  'time' | 'picture' | 'travel' | 'weight' | 'light' | 'space' | 'shape' | 'surface' | 'order' | 'sheet';

export type CheckState = PreflightState;
export type Offender = PreflightOffender;
export type CheckResult = PreflightCheck;
export type Repair = PreflightRepair;

/** What a check found, before its thresholds are laid on. */
export interface CheckOutcome {
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
  run(scene: Scene): CheckOutcome | string;
}

/** Nothing wrong, or a stop. */
export const STOP: Threshold = { caution: null, stop: 1 };
/** Nothing wrong, or a caution. */
export const CAUTION: Threshold = { caution: 1, stop: null };
