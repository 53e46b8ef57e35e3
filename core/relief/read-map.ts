/**
 * What a displacement map holds: its range, the level where it is flat, and whether it goes both ways.
 *
 * What levels mean is common practice, without a source: a map that goes both ways rests at 0.5, one of heights at 0.
 *
 * @example
 * const { flat, rest } = readMap(heightsOf(texture), covered);
 */
export interface MapReading {
  /** 64 bins over the whole range. */
  bins: { from: number; to: number; count: number }[];
  least: number;
  most: number;
  /** Values that half a percent lies below and above. */
  low: number;
  high: number;
  mean: number;
  /** The value that most of it has, and the share that has it; null where none stands out. */
  flat: { value: number; share: number } | null;
  /** Both ways from its middle, out or in from one end, or as nobody can tell. */
  kind: 'both ways' | 'raised' | 'pressed' | 'open';
  /** The level that stays where it is, by all that. */
  rest: number;
  /** Values that differ, up to 65,536. */
  steps: number;
}

const BINS = 64;
const FINE = 512;
/** Share that a level must hold before it is the flat one. */
const FLAT = 0.2;
/** Share of the range within which a level is an end, and 0.5 the middle. */
const END = 0.04;
const MIDDLE = 0.06;
const MOST_STEPS = 65_536;

/**
 * @param heights a value a texel
 * @param covered a byte a texel that is worn; null: all are
 * @returns null where nothing is worn
 */
export function readMap(heights: Float32Array, covered: Uint8Array | null): MapReading | null {
  const values = covered ? heights.filter((_, i) => covered[i] === 1) : heights.slice();
  if (values.length === 0) return null;
  values.sort();
  const [least, most] = [values[0], values[values.length - 1]];
  const range = most - least;
  const at = (share: number) => values[Math.min(values.length - 1, Math.floor(share * values.length))];
  const [low, high] = [at(0.005), at(0.995)];
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const fine = counts(values, least, range, FINE);
  const flat = range === 0 ? { value: least, share: 1 } : flattest(fine, values, least, range);
  const kind = kindOf(flat, least, most, mean);
  return {
    bins: counts(values, least, range, BINS).map((count, k) => ({ from: least + (k * range) / BINS, to: least + ((k + 1) * range) / BINS, count })),
    least,
    most,
    low,
    high,
    mean,
    flat,
    kind,
    rest: flat ? tidy(flat.value) : kind === 'both ways' ? (least < 0 ? 0 : 0.5) : 0,
    steps: stepsOf(values),
  };
} // prettier-ignore

function counts(values: Float32Array, least: number, range: number, bins: number): number[] {
  const out = new Array<number>(bins).fill(0);
  for (const value of values)
    out[range > 0 ? Math.min(bins - 1, Math.floor(((value - least) / range) * bins)) : 0] += 1;
  return out;
}

/** The fullest bin with those beside it: the middle of what it holds. */
function flattest(fine: number[], values: Float32Array, least: number, range: number): MapReading['flat'] {
  const held = fine.map((count, k) => count + (fine[k - 1] ?? 0) + (fine[k + 1] ?? 0));
  const best = held.indexOf(Math.max(...held));
  const share = held[best] / values.length;
  if (share < FLAT) return null;
  const [from, to] = [least + ((best - 1) * range) / FINE, least + ((best + 2) * range) / FINE];
  const own = values.filter((value) => value >= from && value <= to);
  return { value: own[own.length >> 1], share };
}

function kindOf(flat: MapReading['flat'], least: number, most: number, mean: number): MapReading['kind'] {
  const range = most - least;
  if (flat) {
    if (flat.value <= least + END * range) return 'raised';
    if (flat.value >= most - END * range) return 'pressed';
    return 'both ways';
  }
  if (least < 0 && most > 0) return 'both ways';
  return Math.abs(mean - 0.5) <= MIDDLE && least < 0.5 - MIDDLE && most > 0.5 + MIDDLE ? 'open' : 'raised';
}

/** Levels that were meant round are told so: 127 of 255 is a half. */
function tidy(value: number): number {
  const near = [0, 0.5, 1].find((round) => Math.abs(round - value) <= 1 / 200);
  return near ?? +value.toPrecision(3);
}

function stepsOf(sorted: Float32Array): number {
  let steps = 1;
  for (let i = 1; i < sorted.length && steps < MOST_STEPS; i++) if (sorted[i] !== sorted[i - 1]) steps += 1;
  return steps;
}
