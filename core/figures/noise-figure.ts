/** Noise as a display shows it, by one curve or another. */
import { grainOf } from '../data/grain.ts';
import { channel } from '../data/picture.ts';
import { withKnownErrors } from '../picture/known-errors.ts';
import { luminancePlane } from '../picture/measured.ts';
import type { Figure } from './figure.ts';

interface NoiseFigure {
  id: string;
  label: string;
  short: string;
  /** Display value, 0–255, of a luminance. */
  display: (y: number) => number;
  /** Least change of its logarithm to base 2 that is one. */
  seen: number;
  always?: boolean;
}

export const noiseFigure = ({ display, ...figure }: NoiseFigure): Figure => ({
  ...figure,
  unit: 'steps',
  better: 'less',
  change: 'ratio',
  needs: () => ['beauty', 'error.beauty', 'samples'],
  measure({ picture }) {
    if (!picture) return null;
    const known = withKnownErrors(picture);
    return grainOf(luminancePlane(known, 'beauty'), channel(known, 'error.beauty'), 1, display);
  },
  carry(value, { here }) {
    if (!here || value.before === null || value.after === null) return value;
    const now = grainOf(here.luminance, here.error, 1, display);
    return { ...value, before: now, after: carriedNoise(now, value.before, value.after) };
  },
});

/**
 * Noise that a small render forecasts for a picture: the picture's own times what the change does to that of the small
 * render, or what the small render has after it, where there was none to multiply.
 */
export const carriedNoise = (now: number, smallBefore: number, smallAfter: number): number =>
  smallBefore > 0 && now > 0 ? (now * smallAfter) / smallBefore : smallAfter;
