/** What a page shows at the intake station: how the shot came in, its checks, its files. */
import type { JsonPatch } from '../document/patch.ts';

export type PreflightState = 'clear' | 'caution' | 'stop' | 'not-run';

export interface PreflightOffender {
  object: string;
  detail: string;
  count: number;
}

export interface PreflightCheck {
  id: string;
  group: string;
  title: string;
  why: string;
  state: PreflightState;
  expected: string;
  found: string;
  offenders: PreflightOffender[];
  repair: { label: string; patch: JsonPatch } | null;
}

export interface IntakeFile {
  path: string;
  kind: string;
  neededBy: string[];
  state: 'ok' | 'missing' | 'outside' | 'absolute' | 'case' | 'unreadable';
  bytes: number;
  used: boolean;
}

/** How a shot came in, where it was no shot of ours. */
export interface CameIn {
  format: string;
  file: string;
  notUnderstood: { where: string; what: string }[];
  repaired: { where: string; what: string }[];
}

/** Of the shot's present version. */
export interface Intake {
  version: number;
  state: 'waiting' | 'done' | 'failed';
  error: string | null;
  /** What the checks took. */
  seconds: number;
  profile: string;
  checks: PreflightCheck[];
  files: IntakeFile[];
  totalBytes: number;
  cameIn: CameIn | null;
}

/** For the stations of a workspace; null: not run on this version yet. */
export interface PreflightSummary {
  state: 'waiting' | 'done' | 'failed';
  stop: number;
  caution: number;
}
