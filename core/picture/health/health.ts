/**
 * How a picture is: figures of each channel, and what is wrong with it in sentences.
 *
 * @example
 * const { channels, findings } = healthOf({ width, height, planes, types: new Map() });
 * const mask = maskOf(findings[0], input);   // a byte a pixel, or null
 */
import { layersOf } from '../../formats/layers.ts';
import type { ChannelHealth, HealthFinding, HealthInput, NumberFormat } from './check.ts';
import { LARGEST_HALF } from './checks/clipped.ts';
import { HEALTH_CHECKS } from './registry.ts';

export interface PictureHealth {
  channels: ChannelHealth[];
  findings: HealthFinding[];
}

const MOST_PLACES = 5;
/** First and last whole stop that histograms tell apart. */
export const HISTOGRAM_STOPS = [-14, 8] as const;

export function healthOf(input: HealthInput): PictureHealth {
  const channels = [...input.planes].map(([name, plane]) => channelHealth(name, plane, input.width, input.types.get(name))); // prettier-ignore
  const of = new Map(channels.map((channel) => [channel.name, channel]));
  const examined = { ...input, of, layers: layersOf(input.planes.keys()) };
  return {
    channels,
    findings: HEALTH_CHECKS.flatMap(({ id, find }) => find(examined).map((found) => ({ id, ...found }))),
  };
}

/** Where a finding is; null where it is of no place. */
export const maskOf = (finding: HealthFinding, input: HealthInput): Uint8Array | null =>
  HEALTH_CHECKS.find(({ id }) => id === finding.id)?.mask?.(input, finding) ?? null;

/** Sign and exponent of a 32-bit float, its nine highest bits. */
const SIGNED_EXPONENTS = 512;
const SIGN = 256;
/** Exponent of what is no finite number. */
const NO_NUMBER = 255;
/** Exponent of 1. */
const ONE = 127;

/**
 * Figures of one channel. Nearly all hold finite numbers below their format's end, and are read once, counted by sign and exponent;
 * only where the counts tell of others is it read again. Zero and what is below 2⁻¹²⁶ is in no bin of the histogram.
 */
export function channelHealth(
  name: string,
  plane: ArrayLike<number>,
  width: number,
  type: NumberFormat = 'float',
): ChannelHealth {
  const floats = plane instanceof Float32Array ? plane : Float32Array.from(plane);
  const bits = new Uint32Array(floats.buffer, floats.byteOffset, floats.length);
  const counts = new Uint32Array(SIGNED_EXPONENTS);
  let [min, max, sum] = [Infinity, -Infinity, 0];
  for (let i = 0; i < floats.length; i++) {
    const value = floats[i];
    counts[bits[i] >>> 23] += 1;
    if (value < min) min = value;
    if (value > max) max = value;
    sum += value;
  }
  const end = type === 'half' ? LARGEST_HALF : type === 'uint' ? 1 : Infinity;
  const others = { nan: 0, infinite: 0, clipped: 0, places: [] as ChannelHealth['places'] };
  if (counts[NO_NUMBER] + counts[SIGN + NO_NUMBER] > 0 || max >= end) [min, max, sum] = readOthers(floats, width, end, others); // prettier-ignore
  const finite = floats.length - others.nan - others.infinite;
  const [first, last] = HISTOGRAM_STOPS;
  const histogram = new Array<number>(last - first + 1).fill(0);
  let negative = 0;
  for (let exponent = 1; exponent < NO_NUMBER; exponent++) {
    // What is larger than the last stop is in it, what is smaller than the first in that.
    histogram[Math.max(first, Math.min(last, exponent - ONE)) - first] += counts[exponent];
    negative += counts[SIGN + exponent];
  }
  return { name, min: finite ? min : 0, max: finite ? max : 0, mean: finite ? sum / finite : 0, negative, histogram, ...others }; // prettier-ignore
}

/** Counts what is not finite or at the format's end. @returns least, most and sum of finite values */
function readOthers(
  floats: Float32Array,
  width: number,
  end: number,
  into: Pick<ChannelHealth, 'nan' | 'infinite' | 'clipped' | 'places'>,
): [number, number, number] {
  let [min, max, sum] = [Infinity, -Infinity, 0];
  for (let i = 0; i < floats.length; i++) {
    const value = floats[i];
    if (value - value !== 0) {
      if (Number.isNaN(value)) into.nan += 1;
      else into.infinite += 1;
      if (into.places.length < MOST_PLACES) into.places.push({ x: i % width, y: Math.floor(i / width) });
      continue;
    }
    if (value < min) min = value;
    if (value > max) max = value;
    if (value >= end) into.clipped += 1;
    sum += value;
  }
  return [min, max, sum];
}
