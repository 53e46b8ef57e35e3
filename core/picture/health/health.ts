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

export function channelHealth(
  name: string,
  plane: ArrayLike<number>,
  width: number,
  type: NumberFormat = 'float',
): ChannelHealth {
  let [min, max, sum, nan, infinite, negative, clipped] = [Infinity, -Infinity, 0, 0, 0, 0, 0];
  const [first, last] = HISTOGRAM_STOPS;
  // By the exponent of 32-bit floats, the greatest of which is that of what is no number.
  const counts = new Uint32Array(256);
  const places: ChannelHealth['places'] = [];
  const end = type === 'half' ? LARGEST_HALF : type === 'uint' ? 1 : Infinity;
  const floats = plane instanceof Float32Array ? plane : Float32Array.from(plane);
  const bits = new Uint32Array(floats.buffer, floats.byteOffset, floats.length);
  for (let i = 0; i < plane.length; i++) {
    const value = plane[i];
    if (value - value !== 0) {
      if (Number.isNaN(value)) nan += 1;
      else infinite += 1;
      if (places.length < MOST_PLACES) places.push({ x: i % width, y: Math.floor(i / width) });
      continue;
    }
    if (value < min) min = value;
    if (value > max) max = value;
    if (value < 0) negative += 1;
    else if (value > 0) counts[bits[i] >>> 23] += 1;
    if (value >= end) clipped += 1;
    sum += value;
  }
  const histogram = new Array<number>(last - first + 1).fill(0);
  // What is larger than the last stop is in it, what is smaller than the first in that.
  counts.forEach((count, exponent) => (histogram[Math.max(first, Math.min(last, exponent - 127)) - first] += count));
  const finite = plane.length - nan - infinite;
  return { name, min: finite ? min : 0, max: finite ? max : 0, mean: finite ? sum / finite : 0, nan, infinite, negative, clipped, histogram, places }; // prettier-ignore
}
