/** The colour of a shadow: what glass, cut-outs and shadow colours leave of a light, channel by channel. */
import type { Triple } from '../data/placement.ts';
import { luminance } from '../data/colour.ts';

export interface ShadowTint {
  /** Stops that each channel loses, and luminance: 0 or less. */
  channels: Triple;
  stops: number;
  /** Degrees of hue, as of HSL: red 0, green 120, blue 240; and what it is called. */
  hue: number;
  name: string;
}

/** Stops between channels below which nobody calls it a colour, and what stands for nothing. */
const PLAIN = 0.1;
const LEAST = 1e-4;

/** Names by the hue that they reach up to, degrees. */
const NAMES: readonly [number, string][] = [[15, 'red'], [45, 'orange'], [70, 'yellow'], [165, 'green'], [200, 'cyan'], [255, 'blue'], [290, 'violet'], [340, 'magenta'], [360, 'red']]; // prettier-ignore

/** @param left share of the light that arrives, 0–1 by channel; @returns null for grey ones, and where nothing arrives */
export function shadowTint(left: Triple): ShadowTint | null {
  const stopsOf = (share: number) => Math.log2(Math.max(LEAST, share));
  const channels = left.map(stopsOf) as Triple;
  const [high, low] = [Math.max(...left), Math.min(...left)];
  if (high <= LEAST || stopsOf(high) - stopsOf(low) < PLAIN) return null;
  const [r, g, b] = left;
  const sixth = high === r ? ((g - b) / (high - low) + 6) % 6 : high === g ? (b - r) / (high - low) + 2 : (r - g) / (high - low) + 4; // prettier-ignore
  const hue = 60 * sixth;
  return { channels, stops: stopsOf(luminance(r, g, b)), hue, name: NAMES.find(([to]) => hue <= to)![1] };
}
