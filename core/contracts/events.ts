/**
 * What a page shows of a shot, as one state: sent whole on every change, so that a late page is right at once. Documents and
 * findings are fetched by their ids, once, for they never change.
 */
import type { Effect } from './figures.ts';
import type { Finding } from './finding.ts';
import type { FarmRequest } from './requests.ts';
import type { PreflightSummary } from './intake.ts';
import type { Region } from '../data/picture.ts';
import type { JsonPatch } from '../document/patch.ts';
import type { SheetName } from '../document/schema.ts';

export type RenderState = 'active' | 'done' | 'stopped' | 'failed';

/** Whether causes were looked for in a render. `stopped`: somebody cancelled it, and it can go on. */
export type Examination = 'no' | 'waiting' | 'done' | 'stopped' | 'failed';

/** `base`: the shot as it is; `trial`: one side of a trial; `frame`: one of a range of frames. */
export type RenderPurpose = 'base' | 'trial' | 'frame';

export interface RenderSummary {
  id: number;
  purpose: RenderPurpose;
  /** The range of frames it is one of, and which. */
  range: number | null;
  frame: number | null;
  sheet: SheetName;
  version: number;
  versionId: number;
  region: Region;
  /** The full frame's size, pixels. */
  width: number;
  height: number;
  state: RenderState;
  examined: Examination;
  /** Titles of the families that have looked, and of those that have not, while it is examined or that is cancelled. */
  looked: string[];
  toLook: string[];
  error: string | null;
  /** What is unusual about the scene, one sentence each. */
  warnings: string[];
  /** Samples per pixel it is to reach, and the mean over its tiles so far. */
  samples: number;
  samplesDone: number;
  /** Share of all sample groups that are done, 0–1. */
  progress: number;
  /** Rises with every tile: a picture of another revision is older. */
  revision: number;
  /** Rays traced so far; seconds of thread time they took. */
  rays: number;
  threadSeconds: number;
  createdAt: string;
}

/** What lists show of a finding; the whole of it is fetched by its id, and never changes. */
export type FindingLine = Pick<
  Finding,
  'of' | 'family' | 'cause' | 'check' | 'key' | 'severity' | 'sentence' | 'after'
> & {
  /** The first remedy, for the key that tries it. */
  firstRemedy: string | null;
};

export interface FindingSummary extends FindingLine {
  id: number;
  /** Null: found in the version by itself. */
  renderId: number | null;
  /** Version of the document it was found in. */
  versionId: number;
  /** Samples of a pixel of the picture that it was found in; of a version, which check of it. */
  samples: number;
  version: number;
  sheet: SheetName;
  /** Reason, when a person dismissed it. */
  aside: string | null;
}

export interface TrialSummary {
  id: number;
  number: number;
  title: string;
  findingId: number | null;
  remedyId: string | null;
  version: number;
  sheet: SheetName;
  region: Region;
  patch: JsonPatch;
  /** Of a second render, some objects alone, which is added into the one with the change; null: there is none. */
  alonePatch: JsonPatch | null;
  state: 'predicting' | 'rendering' | 'done' | 'stopped' | 'failed';
  error: string | null;
  predicted: Effect | null;
  measured: Effect | null;
  beforeRenderId: number | null;
  afterRenderId: number | null;
  verdict: 'keep' | 'drop' | null;
  createdAt: string;
  /** The sweep it is a step of, and what it is called there. */
  sweepId: number | null;
  step: string | null;
}

/** Trials of several values of one thing, which share the render without any of them. */
export interface SweepSummary {
  id: number;
  title: string;
  /** The control that all of them set, where it is one. */
  pointer: string | null;
}

/** What a frame of a version takes by one of its sheets, measured by a part of it on the machine that renders. */
export interface FrameTimeSummary {
  versionId: number;
  version: number;
  sheet: SheetName;
  state: 'waiting' | 'done' | 'failed';
  error: string | null;
  threadSeconds: number;
  /** Reading files, building trees and mips: once a machine. */
  onceSeconds: number;
  rays: number;
  /** Standard error of a frame's time, as a share. */
  share: number;
}

export interface VersionSummary {
  id: number;
  number: number;
  parentId: number | null;
  reason: string;
  /** What somebody called it; empty: nothing. */
  name: string;
  createdAt: string;
}

export interface ShotState {
  code: string;
  name: string;
  revision: number;
  head: VersionSummary;
  /** The version that undo goes back to, and the one that redo goes on to. */
  undo: VersionSummary | null;
  redo: VersionSummary | null;
  renders: RenderSummary[];
  findings: FindingSummary[];
  trials: TrialSummary[];
  sweeps: SweepSummary[];
  versions: VersionSummary[];
  frameTimes: FrameTimeSummary[];
  farm: FarmRequest;
  preflight: PreflightSummary | null;
  /** How many logs came with it. */
  logs: number;
  /** Rises with every change of its pictures, looks and balance. */
  lookRevision: number;
  /** Out of the list of shots that are worked on. */
  archived: boolean;
}

/** Something that is being worked on, or waits for its turn. */
export interface RunningWork {
  kind: 'render' | 'trial' | 'examination';
  /** Of the render, or of the trial. */
  id: number;
  code: string;
  title: string;
  /** 0–1. */
  progress: number;
  /** Its shot goes before others. */
  isFirst: boolean;
}

export interface ShotSummary {
  code: string;
  name: string;
  version: number;
  open: number;
  worst: 'stop' | 'caution' | 'note' | null;
  trials: number;
  kept: number;
  /** Of the head version. */
  preflight: PreflightSummary | null;
  /** How many pictures were brought in beside it. */
  pictures: number;
  /** The newest base render of the head version, if there is one. */
  render: RenderSummary | null;
  archived: boolean;
}

/** A shot's images by path, each with the hash it is fetched by. */
export interface ShotImages {
  code: string;
  name: string;
  images: Record<string, string>;
}

/** What every page should know while it lasts. */
export interface Notice {
  kind: string;
  text: string;
  since: string;
}

/** An answer that is not a success: one sentence, and the places it is about. */
export interface ErrorBody {
  error: string;
  problems: { path: string; value: string; expected: string }[];
}
