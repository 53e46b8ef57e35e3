/** What a check of a picture's health is: one file each, one line in `registry.ts`. */
import type { Layer } from '../../formats/layers.ts';
import type { PlaneMeans } from '../plane-means.ts';

export type NumberFormat = 'half' | 'float' | 'uint';

export interface HealthInput {
  width: number;
  height: number;
  planes: Map<string, ArrayLike<number>>;
  /** Number format of each channel, where a step of it counts. */
  types: Map<string, NumberFormat>;
}

export interface ChannelHealth {
  name: string;
  /** Over finite values; 0 where there are none. */
  min: number;
  max: number;
  mean: number;
  nan: number;
  infinite: number;
  negative: number;
  /** Values at the greatest number that the format has. */
  clipped: number;
  /** Values by whole stops, those of `HISTOGRAM_STOPS`; what is below the first or above the last is in it. */
  histogram: number[];
  /** Pixels of the first few values that are no numbers. */
  places: { x: number; y: number }[];
}

export interface HealthFinding {
  /** Of the check. */
  id: string;
  severity: 'stop' | 'caution' | 'note';
  sentence: string;
  channels: string[];
}

/** What checks see of a picture. */
export interface Examined extends HealthInput {
  of: Map<string, ChannelHealth>;
  layers: Layer[];
  /** What values are worked through with. */
  means: PlaneMeans;
}

/** A plane as floats, whatever its numbers are kept in. */
export const floatsOf = (plane: ArrayLike<number>): Float32Array =>
  plane instanceof Float32Array ? plane : Float32Array.from(plane);

/** Luminance of three channels by their names. */
export function luminanceBy(means: PlaneMeans, colours: string[], planes: HealthInput['planes']): Float32Array {
  const [red, green, blue] = colours.map((name) => floatsOf(planes.get(name)!));
  return means.luminance(red, green, blue);
}

export interface HealthCheck {
  id: string;
  find(picture: Examined): Omit<HealthFinding, 'id'>[];
  /** A byte a pixel, 1 where the finding is; none where it is of no place. */
  mask?(picture: HealthInput, finding: HealthFinding): Uint8Array;
}

/** Layers that hold light. */
export const litLayers = ({ layers }: Examined): Layer[] =>
  layers.filter(({ role }) => role === 'beauty' || role === 'light' || role === 'light group');

/** Where any of some channels has a value like that. */
export function maskWhere(
  { width, height, planes }: HealthInput,
  channels: string[],
  is: (value: number) => boolean,
): Uint8Array {
  const mask = new Uint8Array(width * height);
  for (const name of channels) {
    const plane = planes.get(name);
    if (plane) for (let i = 0; i < mask.length; i++) if (is(plane[i])) mask[i] = 1;
  }
  return mask;
}
