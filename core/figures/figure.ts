/** What a figure is. A new one is a file and a line in `registry.ts`: predictions, trials, sweeps, page, shell and reports take it from there. */
import type { FigureValue } from '../contracts/figures.ts';
import type { Picture } from '../data/picture.ts';
import type { FilmLayout } from '../render/film/passes.ts';

export type Unit =
  'stops' | 'steps' | 'rays' | 'count' | 'share' | 'seconds' | 'bytes' | 'metres' | 'area' | 'pixels' | 'bits';

/** One of the two states that a change is judged by. */
export interface Side {
  /** The passes that figures need, over the region; null: nothing was rendered. */
  picture: Picture | null;
  /** Samples of each pixel that stay out of the picture, see `render/frame/adaptive.ts`. */
  deciding: number;
  /** Rays of ambient occlusion that each sample sends. */
  occlusionRays: number;
  /** Thread time that the region took; null: no clock ran. */
  seconds: number | null;
  /** What the scene tells by itself, by id of the figure; what is not there is not known. See `predict/scene-figures.ts`. */
  ofScene: SceneFigures;
}

export type SceneFigures = Readonly<Partial<Record<string, number | null>>>;

/** What both sides of a change have in common. */
export interface Comparison {
  before: Side;
  after: Side;
  /** The pass that shows the change: the beauty unless it shows none and another does. */
  pass: string;
  /** Share of the region that changes there, 0–1. */
  share: number;
  /** A byte for each pixel of the pictures, whose brightness counts; null: all. */
  mask: Uint8Array | null;
  /** What objects are called, by number from 0. */
  names: string[];
  /**
   * Film before the change by other random numbers, at the same pixels and over all of the region that they stand for:
   * light found by chance may be missing from one, and part of an object from few pixels. Null where whole renders are compared.
   */
  film: { here: Picture; region: Picture } | null;
}

/** From a region rendered small to the region itself. */
export interface Carriage {
  /** Pixels of the region for each that was rendered. */
  standsFor: number;
  /** Samples that the sheets give for each that was taken, before and after. */
  samplesFor: [number, number];
  /** The region as it was rendered, luminances and their standard errors; null: it was not, or was chosen for what chance brought there. */
  here: { luminance: Float32Array; error: Float32Array } | null;
}

interface FigureOf {
  /** Scripts and stored predictions rely on it. */
  id: string;
  label: string;
  /** In a word, where room is short. */
  short: string;
  unit: Unit;
  better: 'less' | 'more' | 'neither';
  /** How a change of it is told. */
  change: 'difference' | 'ratio';
  /** The greatest difference that is told: beyond it one side is black. */
  most?: number;
  /** The least change that is one: a difference in the unit, or the logarithm to base 2 of a ratio. */
  seen: number;
  /** It is told whether it changes or not. */
  always?: boolean;
  /** What `of` in its values names: the object that it found, or the pass that it is told of. */
  tells?: 'object';
  /** Passes that it reads; null: it needs no picture. */
  needs(layout: FilmLayout): readonly string[] | null;
  /** Left out: what few pixels tell holds for the region. */
  carry?(value: FigureValue, carriage: Carriage): FigureValue;
}

/** A figure of each side by itself. */
interface SideFigure extends FigureOf {
  /** @returns null where this side cannot tell it */
  measure(side: Side, comparison: Comparison): number | null;
}

/** A figure that needs both sides at once. */
interface PairedFigure extends FigureOf {
  compare(comparison: Comparison): Omit<FigureValue, 'id'>;
}

export type Figure = SideFigure | PairedFigure;
