/**
 * Fireflies of a render that one sample made: what stands out by many samples is no light found by chance, more of
 * them cure it, and that is grain.
 */
import { channel, type Picture } from '../data/picture.ts';
import { findFireflies } from './fireflies.ts';
import { luminancePlane } from './measured.ts';

/** Share of a pixel's light that its brightest sample must have brought alone. */
const SINGLE = 0.5;

/** Passes that a picture must have to be looked at. */
export const FIREFLY_PASSES = ['beauty', 'albedo', 'samples', 'brightest.value'];

/** @returns numbers of its pixels, row by row from 0 */
export function singleFireflies(picture: Picture): number[] {
  const { width, height } = picture;
  const luminance = luminancePlane(picture, 'beauty');
  const [brightest, samples] = [channel(picture, 'brightest.value'), channel(picture, 'samples')];
  return findFireflies({ luminance, width, height, albedo: luminancePlane(picture, 'albedo') })
    .pixels.map(({ x, y }) => y * width + x)
    .filter((i) => brightest[i] >= SINGLE * luminance[i] * Math.max(1, samples[i]));
}
