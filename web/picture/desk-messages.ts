/** What the page and the worker that keeps pictures say to each other. */
import type { ExrWindow } from '../../core/formats/exr/header.ts';
import type { LayerRole } from '../../core/formats/layers.ts';
import type { Region } from '../../core/data/picture.ts';
import type { Finding } from '../../core/contracts/finding.ts';
import type { RenderedWith } from '../../core/diagnose/noise/plan-in-numbers.ts';
import type { Balance } from '../../core/picture/balance.ts';
import type { ColourDifference } from '../../core/picture/compare.ts';
import type { DifferenceKind } from '../../core/picture/difference.ts';
import type { Hot } from '../../core/picture/heat.ts';
import type { HealthFinding } from '../../core/picture/health/check.ts';
import type { Look } from '../../core/picture/look.ts';
import type { PictureNoise } from '../../core/picture/noise.ts';
import type { Screen } from '../../core/picture/paint.ts';
import type { SpaceId } from '../../core/picture/spaces.ts';
import type { FrameFigures } from '../../core/picture/sequence/frame-figures.ts';
import type { Flicker } from '../../core/picture/sequence/flicker.ts';
import type { PassLook } from '../../core/render/film/pass-list.ts';

/** What may be looked at: a render of ours, whose passes are fetched one by one, or a file, which is decoded whole. */
export type SourceRef =
  | { kind: 'render'; id: number; revision: number; layers: DeskLayer[]; frame: ExrWindow }
  | { kind: 'picture'; id: number; name: string };

export interface DeskLayer {
  name: string;
  role: LayerRole;
  /** All of it, and those that are shown. */
  channels: string[];
  shown: string[];
  look: PassLook;
  alpha: string | null;
  /** Of its part. */
  dataWindow: ExrWindow;
}

/** What is known of a source once its header is read. */
export interface Opened {
  displayWindow: ExrWindow;
  pixelAspect: number;
  layers: DeskLayer[];
  /** Names of objects in the header, by set of mattes. */
  mattes: { name: string; names: string[] }[];
  /** Share of its pixels that are here, 0–1. */
  done: number;
  /** Milliseconds from its bytes to the first pixels, and to the last. */
  firstMs: number;
  allMs: number;
}

/** One picture on the screen. */
export interface Cell {
  key: string;
  layer: string;
  screen: Screen;
  /** Where the scale of a one-channel layer ends; null: at its own greatest values. */
  top: number | null;
  /** Held against another picture. */
  against: { key: string; kind: DifferenceKind; times: number } | null;
  /** Light groups set against each other; empty for what is no beauty. */
  balance: Balance;
  /** What is known of this picture: the space its values are in, null as the look says; stops baked into them. */
  space: SpaceId | null;
  bakedExposure: number;
  /** Hatched over it: where a finding is, or what covers a pixel. */
  mask: { finding: HealthFinding } | { matte: string; of: string } | null;
  /** Whether its own greatest light is shown as white, instead of the exposure that is set. */
  isNormalised: boolean;
}

export interface Values {
  x: number;
  y: number;
  /** Mean over the area, by channel, with the standard deviation where it has more than one pixel. */
  channels: { name: string; mean: number; deviation: number | null }[];
  /** What covers the pixel most, by name. */
  named: { set: string; name: string }[];
}

export interface Compared {
  difference: ColourDifference;
  noise: [PictureNoise, PictureNoise];
  /** By how much B was resized to lie over A; 1 as it is. */
  resized: number;
}

export type DeskRequest =
  | { do: 'open'; key: string; ref: SourceRef }
  | { do: 'draw'; cells: Cell[]; look: Look }
  | { do: 'values'; key: string; x: number; y: number; radius: number }
  | { do: 'compare'; a: string; b: string; layer: string; region: Region | null }
  | { do: 'noise'; key: string; layer: string; region: Region | null }
  | { do: 'frame'; key: string }
  | { do: 'flicker'; a: string; b: string }
  | { do: 'heat'; key: string; ids: string; cost: string }
  | { do: 'causes'; key: string; beside: string[]; renderedWith: RenderedWith };

export interface Drawn {
  image: ImageData;
  /** Where the scale of a layer that is no light ends. */
  top: number | null;
}

export interface Answers {
  open: Opened;
  draw: (Drawn | null)[];
  values: Values | null;
  compare: Compared;
  noise: PictureNoise | null;
  frame: FrameFigures | null;
  flicker: Flicker;
  heat: Hot[];
  causes: Finding[];
}

export type FromDesk =
  { id: number; result: unknown } | { id: number; error: string } | { event: 'rows'; key: string; opened: Opened };
