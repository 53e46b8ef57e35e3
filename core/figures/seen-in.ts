/**
 * The pass on which a change is seen. The beauty, if it shows it; an occlusion distance or a shadow between lights that
 * drown it is seen in a pass of its own, and figures of brightness are told of that one.
 *
 * Both sides have the same random numbers, so what a change does not touch is the same bit by bit, and what it touches
 * differs by noise as well. A place is one of 5 × 5 pixels; it has changed where the mean of its differences is more than
 * four of their standard errors and more than anybody would overlook. Source: the paired test of Student 1908.
 */
import type { Picture } from '../data/picture.ts';
import { boxMean } from '../picture/measured.ts';
import type { FilmLayout } from '../render/film/passes.ts';
import { lookOf } from '../render/film/pass-list.ts';
import { planesOf } from './planes.ts';

const RADIUS = 2;
/** Standard errors: some hundred thousand places are looked at, and noise has long tails. */
const SURE = 4;
/** Stops by which a place is another one. */
const STOPS = 0.1;
/** The same of shares and of parts of directions, which are not told in stops: a tenth of a stop about a half. */
const STEP = 0.035;
/** Linear luminance below which everything is black. */
const BLACK = 1e-4;
/** Share of the region from which on a pass shows a change. */
export const SHOWN = 0.01;

/** Passes that may show what the beauty does not, the plainest first. */
const BESIDE = ['albedo', 'normal', 'coverage'];

export const seenPasses = ({ shadows, occlusion }: FilmLayout): string[] => [
  'beauty',
  ...shadows.map((light) => `shadow.${light}`),
  ...(occlusion ? ['occlusion'] : []),
  ...BESIDE,
];

/** @returns the pass, and the share of the pixels that change in it, 0–1; the beauty where none shows a change */
export function seenIn(before: Picture, after: Picture): { pass: string; share: number } {
  const beauty = { pass: 'beauty', share: changedShare(before, after, 'beauty') };
  if (beauty.share >= SHOWN) return beauty;
  const others = passesOf(before).map((pass) => ({ pass, share: changedShare(before, after, pass) }));
  const most = others.reduce((best, one) => (one.share > best.share ? one : best), beauty);
  return most.share >= SHOWN ? most : beauty;
}

function passesOf({ channels }: Picture): string[] {
  const own = [...channels.keys()].filter((name) => name.startsWith('shadow.') || name === 'occlusion');
  return [...own, ...BESIDE.filter((pass) => [...channels.keys()].some((name) => name === pass || name.startsWith(`${pass}.`)))]; // prettier-ignore
}

/** Share of the pixels whose surroundings change. Pixels that are no numbers count as they are: not changed. */
export function changedShare(before: Picture, after: Picture, pass: string): number {
  const [a, b] = [planesOf(before, pass), planesOf(after, pass)];
  if (a.length === 0 || b.length !== a.length) return 0;
  const { width, height } = before;
  const mean = (plane: ArrayLike<number>) => boxMean(plane, width, height, RADIUS);
  const isLight = lookOf(pass) === 'light';
  const parts = a.map((plane, c) => {
    const difference = plane.map((v, i) => b[c][i] - v);
    return { was: mean(plane), by: mean(difference), squares: mean(difference.map((d) => d * d)) };
  });
  let changed = 0;
  for (let i = 0; i < width * height; i++) {
    let [by, spread] = [0, 0];
    for (const part of parts) {
      by += part.by[i] ** 2;
      spread += Math.max(0, part.squares[i] - part.by[i] ** 2);
    }
    const size = Math.sqrt(by);
    if (!(size >= SURE * Math.sqrt(spread / placeSize(i, width, height)))) continue;
    if (isLight ? isStops(parts[0], i) : size >= STEP) changed += 1;
  }
  return changed / (width * height);
}

function isStops({ was, by }: { was: ArrayLike<number>; by: ArrayLike<number> }, i: number): boolean {
  const [first, second] = [Math.max(0, was[i]) + BLACK, Math.max(0, was[i] + by[i]) + BLACK];
  return Math.abs(Math.log2(second / first)) > STOPS;
}

/** Pixels of the square about one, as much of it as lies in the picture. */
function placeSize(i: number, width: number, height: number): number {
  const across = (at: number, most: number) => Math.min(most - 1, at + RADIUS) - Math.max(0, at - RADIUS) + 1;
  return across(i % width, width) * across(Math.floor(i / width), height);
}
