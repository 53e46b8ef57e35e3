/** What is found wrong, in a render, a picture or a version: one measured problem, and what could be changed about it. */
import { Type } from '@sinclair/typebox';
import type { Region } from '../data/picture.ts';
import type { JsonPatch } from '../document/patch.ts';
import type { ControlValues } from '../document/set-values.ts';
import type { Effect } from './figures.ts';
import type { RepairWork } from './intake.ts';

export const RegionSchema = Type.Object(
  {
    x: Type.Integer({ minimum: 0, maximum: 16384 }),
    y: Type.Integer({ minimum: 0, maximum: 16384 }),
    width: Type.Integer({ minimum: 1, maximum: 16384 }),
    height: Type.Integer({ minimum: 1, maximum: 16384 }),
  },
  { additionalProperties: false },
);

export type Severity = 'stop' | 'caution' | 'note';

/** Values for chosen objects alone, which are rendered by themselves and put together with the rest, see `document/hold-out.ts`. */
export interface HeldOut {
  /** Ids. */
  objects: string[];
  values: ControlValues;
}

/** What a remedy does: values set by the pointers of controls (see `set-values.ts`), files made beside the old ones, or a second render. */
export type Change =
  | { kind: 'values'; values: ControlValues }
  | { kind: 'files'; patch: JsonPatch; work: RepairWork | null }
  | ({ kind: 'hold-out' } & HeldOut);

export interface Remedy {
  id: string;
  /** A verb phrase: "Let 99 % through". */
  title: string;
  /** Null: what to do is told in words alone, for nobody knows the settings. */
  change: Change | null;
  /** Worked out before any trial; null: forecast when it is tried. */
  predicted: Effect | null;
  /** What it gives up, or why it would not do alone. */
  note?: string;
  /** What it comes to in numbers beside figures, for scripts: times the samples, the number to type in. */
  numbers?: Record<string, number>;
}

/** A dial the finding speaks of, by pointer inside a sheet, with what the first remedy sets. */
export interface DialNeed {
  pointer: string;
  needs: number | null;
  /** Why this dial decides, when it is not plain: "decides first at 10". */
  note: string | null;
  /** Values that show what the dial does to the finding, beside each other: nothing that is known to cure it. */
  sideBySide?: number[];
}

/** A reason of the catalogue, and how much of the finding it explains. */
export interface CauseShare {
  /** `family.cause`. */
  id: string;
  /** 0–1: measured by leaving it out, or read off the render. */
  share: number;
}

export interface Axis {
  label: string;
  unit?: string;
  /** Linear by default. */
  scale?: 'linear' | 'logarithmic';
  /** Greatest value the axis needs. */
  max?: number;
}

export interface ChartMark {
  x: number;
  label: string;
  kind: 'now' | 'override' | 'knee' | 'enough';
}

/** Shares of one whole, the greatest first. */
export interface ShareBar {
  /** What the shares are by: pass, light, dial. */
  label: string;
  parts: { label: string; share: number }[];
}

/** The data behind a finding, by kind: the page and reports show each kind in one way, whatever family it is of. */
export type Evidence =
  | { kind: 'curve'; title: string; x: Axis; y: Axis; series: { label: string; points: [number, number][] }[]; marks: ChartMark[] }
  | { kind: 'shares'; title: string; bars: ShareBar[] }
  /** `counts`: what is counted, pixels by default. */
  | { kind: 'histogram'; title: string; x: Axis; counts?: string; bins: { from: number; to: number; count: number }[]; marks?: ChartMark[] }
  | { kind: 'table'; title: string; columns: string[]; rows: (string | number | null)[][] }
  /** A pass as a picture, and what its values mean. */
  | { kind: 'map'; title: string; pass: string; legend: { label: string; value: number }[] }
  /** Lines in a plane, 4 numbers each: x and y of both ends; and the pixel of the full frame that each is seen at, 2 numbers. */
  | { kind: 'lines'; title: string; x: Axis; y: Axis; groups: { label: string; tone: 'plain' | 'bad'; lines: number[]; pixels?: number[] }[] }
  /** Pixels of the full frame to jump to. */
  | { kind: 'places'; title: string; places: { label: string; x: number; y: number }[] }
  /** Colours, linear sRGB. */
  | { kind: 'swatches'; title: string; swatches: { label: string; rgb: [number, number, number] }[] }; // prettier-ignore

export interface Finding {
  of: 'render' | 'picture' | 'version';
  family: string;
  /** The cause that explains most of it, `family.cause` of the catalogue: scripts rely on it. */
  cause: string;
  /** All that explain a part, that one first. */
  causes: CauseShare[];
  /** The preflight check that sees the same fault. */
  check?: string;
  /** Which of the family's cases: stable from render to render. */
  key: string;
  severity: Severity;
  /** One sentence with its figure, for lists. */
  sentence: string;
  /** The cause in words, and why, with the figures it was concluded from. */
  headline: string;
  why: string;
  where: {
    /** Where a trial shows it best, full-frame pixels; null: it is seen in no one place. */
    region: Region | null;
    /** Pixels that it is about. */
    pixels: number;
    /** Names of objects. */
    objects: string[];
    /** Passes that show it. */
    passes: string[];
  };
  dials: DialNeed[];
  evidence: Evidence[];
  /** What was measured, by name, for scripts: words have it rounded. */
  measured?: Record<string, number | string | boolean | null>;
  remedies: Remedy[];
  /** Its pixels are others in the next render, so that brightness counts all over the region. */
  isElsewhereNext?: boolean;
  /** Keys of findings that come before it: it is read again once they are dealt with. */
  after?: string[];
}

/** A finding with its mask: one byte a pixel of the full frame, 0 or 1; null where it is about no pixels. */
export interface FindingWithMask {
  finding: Finding;
  mask: Uint8Array | null;
}
