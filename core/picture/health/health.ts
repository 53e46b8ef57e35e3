/**
 * How a picture is: figures of each channel, and what is wrong with it in sentences.
 *
 * @example
 * const { channels, findings } = healthOf({ width, height, planes, types: new Map() });
 * const mask = maskOf(findings[0], input);   // a byte a pixel, or null
 */
import { layersOf } from '../../formats/layers.ts';
import { plainPlanes, type PlaneMeans } from '../plane-means.ts';
import { floatsOf, type ChannelHealth, type HealthFinding, type HealthInput } from './check.ts';
import { LARGEST_HALF } from './checks/clipped.ts';
import { HEALTH_CHECKS } from './registry.ts';

export interface PictureHealth {
  channels: ChannelHealth[];
  findings: HealthFinding[];
}

/** First and last whole stop that histograms tell apart. */
export const HISTOGRAM_STOPS = [-14, 8] as const;

/** @param means what values are worked through with: a kernel, where there is one */
export function healthOf(input: HealthInput, means: PlaneMeans = plainPlanes): PictureHealth {
  const channels = [...input.planes].map(([name, plane]) => channelHealth(name, floatsOf(plane), input, means));
  const of = new Map(channels.map((channel) => [channel.name, channel]));
  const examined = { ...input, of, layers: layersOf(input.planes.keys()), means };
  return {
    channels,
    findings: HEALTH_CHECKS.flatMap(({ id, find }) => find(examined).map((found) => ({ id, ...found }))),
  };
}

/** Where a finding is; null where it is of no place. */
export const maskOf = (finding: HealthFinding, input: HealthInput): Uint8Array | null =>
  HEALTH_CHECKS.find(({ id }) => id === finding.id)?.mask?.(input, finding) ?? null;

function channelHealth(
  name: string,
  plane: Float32Array,
  { width, types }: HealthInput,
  means: PlaneMeans,
): ChannelHealth {
  const [first, last] = HISTOGRAM_STOPS;
  const type = types.get(name);
  const end = type === 'half' ? LARGEST_HALF : type === 'uint' ? 1 : Infinity;
  const { min, max, sum, exponents, notFinite, ...counts } = means.channelSums(plane, end);
  const histogram = new Array<number>(last - first + 1).fill(0);
  // What is larger than the last stop is in it, what is smaller than the first in that.
  exponents.forEach((count, exponent) => (histogram[Math.max(first, Math.min(last, exponent - 127)) - first] += count));
  const finite = plane.length - counts.nan - counts.infinite;
  return {
    name,
    min: finite ? min : 0,
    max: finite ? max : 0,
    mean: finite ? sum / finite : 0,
    ...counts,
    histogram,
    places: notFinite.map((i) => ({ x: i % width, y: Math.floor(i / width) })),
  };
}
