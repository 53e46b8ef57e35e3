/**
 * The part of examining a picture that every value goes through, in a WebAssembly kernel where whoever examines lends one, and in
 * TypeScript otherwise: both give the same bits.
 *
 * @example
 * examinePicture(file, kernelPlanes(instance));
 */
import { luminance } from '../data/colour.ts';

export interface ChannelSums {
  /** Over finite values; ±Infinity where there are none. */
  min: number;
  max: number;
  sum: number;
  nan: number;
  infinite: number;
  negative: number;
  clipped: number;
  /** Values above 0 by the exponent of 32-bit floats, 256 of them. */
  exponents: Uint32Array;
  /** Of the first few values that are not finite: their index. */
  notFinite: number[];
}

/** Half a step of a number format: as a share of a value, and at least. */
export interface HalfStep {
  share: number;
  least: number;
}
export interface SteppedPlane {
  plane: Float32Array;
  step: HalfStep;
}
/** One channel of a whole and of the parts that are to add up to it. */
export interface Summands {
  whole: SteppedPlane;
  parts: SteppedPlane[];
}
export interface Misfit {
  /** A byte a pixel, 1 where some channel is off by more than rounding may do. */
  off: Uint8Array;
  /** The largest difference, and its pixel: the first of equal ones. */
  worst: number;
  place: number;
}

export interface PlaneMeans {
  /** @param end values from it on are clipped */
  channelSums(plane: Float32Array, end: number): ChannelSums;
  /** Luminance of linear Rec.709 values. Source: ITU-R BT.709-6, item 3.2. */
  luminance(red: Float32Array, green: Float32Array, blue: Float32Array): Float32Array;
  misfit(channels: Summands[]): Misfit;
}

/** Rounding of sums in doubles is none of the half steps that are allowed. */
export const TOLERANCE = 1.01;
const MOST_TOLD = 5;
export const BINS = 512;

/** Sums of a channel side by side, as the kernel keeps them: values by their index modulo four. */
export interface Lanes {
  sum: Float64Array;
  least: Float32Array;
  most: Float32Array;
  negative: Int32Array;
  clipped: Int32Array;
  /** Zeros with a plus. */
  zero: Int32Array;
  /** By sign and exponent, `BINS` each. */
  bins: Int32Array;
}

/** What is not finite is kept beside the lanes. */
export interface NotFinite {
  nan: number;
  infinite: number;
  places: number[];
}

export function clearLanes(lanes: Lanes): void {
  for (const counts of [lanes.sum, lanes.negative, lanes.clipped, lanes.zero, lanes.bins]) counts.fill(0);
  lanes.least.fill(Infinity);
  lanes.most.fill(-Infinity);
}

/** Adds values `from` to `to` of a plane, one at a time. @param bits of the same floats */
export function addValues(
  lanes: Lanes,
  strange: NotFinite,
  plane: Float32Array,
  bits: Uint32Array,
  from: number,
  to: number,
  end: number,
): void {
  for (let i = from; i < to; i++) {
    const value = plane[i];
    const lane = i & 3;
    if (value - value !== 0) {
      if (Number.isNaN(value)) strange.nan += 1;
      else strange.infinite += 1;
      if (strange.places.length < MOST_TOLD) strange.places.push(i);
      continue;
    }
    lanes.sum[lane] += value;
    if (value < lanes.least[lane]) lanes.least[lane] = value;
    if (value > lanes.most[lane]) lanes.most[lane] = value;
    if (value < 0) lanes.negative[lane] += 1;
    if (value >= end) lanes.clipped[lane] += 1;
    if (bits[i] === 0) lanes.zero[lane] += 1;
    lanes.bins[lane * BINS + (bits[i] >>> 23)] += 1;
  }
}

/** Of all lanes. */
export function sumsOf(lanes: Lanes, { nan, infinite, places }: NotFinite): ChannelSums {
  const all = (counts: Int32Array) => counts[0] + counts[1] + counts[2] + counts[3];
  const exponents = new Uint32Array(BINS / 2);
  for (let e = 0; e < exponents.length; e++)
    for (let lane = 0; lane < 4; lane++) exponents[e] += lanes.bins[lane * BINS + e];
  exponents[0] -= all(lanes.zero);
  return {
    // Of zeros, one without a sign, whatever lane it is from.
    min: Math.min(...lanes.least) + 0,
    max: Math.max(...lanes.most) + 0,
    sum: lanes.sum[0] + lanes.sum[1] + (lanes.sum[2] + lanes.sum[3]),
    nan,
    infinite,
    negative: all(lanes.negative),
    clipped: all(lanes.clipped),
    exponents,
    notFinite: places,
  };
}

export const bitsOf = (plane: Float32Array): Uint32Array =>
  new Uint32Array(plane.buffer, plane.byteOffset, plane.length);

/** The readable definition. */
export const plainPlanes: PlaneMeans = {
  channelSums(plane, end) {
    const lanes: Lanes = {
      sum: new Float64Array(4),
      least: new Float32Array(4),
      most: new Float32Array(4),
      negative: new Int32Array(4),
      clipped: new Int32Array(4),
      zero: new Int32Array(4),
      bins: new Int32Array(4 * BINS),
    };
    const strange: NotFinite = { nan: 0, infinite: 0, places: [] };
    clearLanes(lanes);
    addValues(lanes, strange, plane, bitsOf(plane), 0, plane.length, end);
    return sumsOf(lanes, strange);
  },
  luminance(red, green, blue) {
    const out = new Float32Array(red.length);
    for (let i = 0; i < out.length; i++) out[i] = luminance(red[i], green[i], blue[i]);
    return out;
  },
  misfit(channels) {
    const pixels = channels[0].whole.plane.length;
    const found: Misfit = { off: new Uint8Array(pixels), worst: 0, place: 0 };
    // Plane by plane: what is read one after the other stands one after the other.
    const sum = new Float64Array(pixels);
    const allowed = new Float64Array(pixels);
    for (const { whole, parts } of channels) {
      const wanted = whole.plane;
      sum.fill(0);
      allowed.fill(0);
      addSteps(allowed, whole);
      for (const part of parts) {
        for (let i = 0; i < pixels; i++) sum[i] += part.plane[i];
        addSteps(allowed, part);
      }
      for (let i = 0; i < pixels; i++) {
        const difference = Math.abs(sum[i] - wanted[i]);
        // What is no number is not judged.
        if (!(difference > allowed[i] * TOLERANCE)) continue;
        found.off[i] = 1;
        take(found, difference, i);
      }
    }
    return found;
  },
};

function addSteps(allowed: Float64Array, { plane, step: { share, least } }: SteppedPlane): void {
  for (let i = 0; i < allowed.length; i++) allowed[i] += Math.max(least, Math.abs(plane[i]) * share);
}

/** Keeps the largest difference there was, and of equal ones the first. */
export function take(found: Misfit, difference: number, place: number): void {
  if (difference < found.worst || (difference === found.worst && place >= found.place)) return;
  [found.worst, found.place] = [difference, place];
}
