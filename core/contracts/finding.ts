/** What a diagnosis says: one measured problem, and what could be changed about it. */
import { Type, type Static } from '@sinclair/typebox';
import type { ControlValues } from '../document/set-values.ts';

const closed = { additionalProperties: false } as const;

export const RegionSchema = Type.Object(
  {
    x: Type.Integer({ minimum: 0, maximum: 16384 }),
    y: Type.Integer({ minimum: 0, maximum: 16384 }),
    width: Type.Integer({ minimum: 1, maximum: 16384 }),
    height: Type.Integer({ minimum: 1, maximum: 16384 }),
  },
  closed,
);

/** An effect as numbers, predicted or measured. */
export const EffectSchema = Type.Object(
  {
    /** Change of mean luminance over the finding's mask, stops. */
    stops: Type.Number(),
    /** Rays after over rays before. */
    cost: Type.Number(),
    /** The same over the whole frame, where it is another. */
    frameCost: Type.Optional(Type.Number()),
    /** Visible grain of the region before and after, display steps. */
    grainBefore: Type.Number(),
    grainAfter: Type.Number(),
    /** Pixels of the region that stand out by one sample, before and after. */
    fireflies: Type.Optional(Type.Object({ before: Type.Integer(), after: Type.Integer() }, closed)),
    /** The object whose brightness changes most, beyond its noise, and by how many stops; null: none does. */
    look: Type.Optional(
      Type.Union([Type.Object({ object: Type.String(), stops: Type.Number() }, closed), Type.Null()]),
    ),
  },
  closed,
);
export type Effect = Static<typeof EffectSchema>;

export type Severity = 'stop' | 'caution' | 'note';

export interface Remedy {
  id: string;
  /** A verb phrase: "Let 99 % through". */
  title: string;
  /** What it sets, by the pointers of controls (`/limits/transmission`, `/objects/chimney/thin`, see `set-values.ts`). */
  values: ControlValues;
  /** Worked out before any trial. */
  predicted: Effect;
  /** What it gives up, or why it would not do alone. */
  note?: string;
}

/** A dial the finding speaks of, by pointer inside a sheet, with what the first remedy sets. */
export interface DialNeed {
  pointer: string;
  needs: number | null;
  /** Why this dial decides, when it is not plain: "decides first at 10". */
  note: string | null;
}

export interface ChartMark {
  x: number;
  label: string;
  kind: 'now' | 'override' | 'knee' | 'enough';
}

export interface EvidenceChart {
  title: string;
  xLabel: string;
  yLabel: string;
  /** Greatest y the axis needs. */
  yMax: number;
  points: [number, number][];
  /** Further curves on the same axes. */
  more?: { label: string; points: [number, number][] }[];
  marks: ChartMark[];
}

/** Shares of one whole, the greatest first. */
export interface EvidenceBar {
  /** What the shares are by: pass, light, dial. */
  label: string;
  parts: { label: string; share: number }[];
}

export interface Finding {
  /** Which diagnosis, and which of its cases: stable from render to render. */
  family: string;
  key: string;
  severity: Severity;
  /** One sentence with its figure, for lists. */
  sentence: string;
  /** The cause as a headline, and why, with the figures it was concluded from. */
  cause: string;
  why: string;
  /** Where a trial shows it best, full-frame pixels. */
  region: { x: number; y: number; width: number; height: number };
  /** Passes that show it. */
  passes: string[];
  dials: DialNeed[];
  chart: EvidenceChart | null;
  bars?: EvidenceBar[];
  remedies: Remedy[];
  /** Its pixels are others in the next render, so that brightness counts all over the region. */
  isElsewhereNext?: boolean;
}

/** A finding with its mask: one byte a pixel of the full frame, 0 or 1. */
export interface FindingWithMask {
  finding: Finding;
  mask: Uint8Array;
}
