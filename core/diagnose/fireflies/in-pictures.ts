/** Fireflies of a picture: how many, in which pass, how much light they hold; those that last from frame to frame are glints. */
import type { Region } from '../../data/picture.ts';
import { findFireflies, guiltyPass, notLasting, type Firefly } from '../../picture/fireflies.ts';
import { percentile } from '../../picture/measured.ts';
import type { Case, Reading } from '../family.ts';
import type { PictureInput } from '../picture-input.ts';
import { percent } from '../words.ts';

export interface PictureFireflies extends Case {
  pixels: Firefly[];
  /** Median of stops above their surroundings. */
  stops: number;
  /** Share of the light that they hold, 0–1. */
  energy: number;
  byPass: { pass: string; pixels: number }[];
  isAcrossFrames: boolean;
}

/** Pixels that are named, the brightest. */
const MOST_PLACES = 20;
/** A share of the pixels from which it is no detail any more. */
const MANY = 1e-4;

export const inPictures: Reading<PictureInput, PictureFireflies> = {
  cases: casesOf,
  // Nothing tells which light a pixel of a foreign picture came from.
  causes: [{ id: 'fireflies.unclamped-bounce', share: () => 1 }],
  remedies: [],
  tell({ pixels, stops, energy, byPass }) {
    const [first] = byPass;
    const many = pixels.length === 1 ? 'One pixel stands out' : `${pixels.length} pixels stand out`;
    const held = energy >= 0.005 ? `; they hold ${percent(energy)} of the light` : '';
    const carried = first ? `; ${first.pass} carries ${first.pixels} of them` : '';
    return {
      sentence: `${many} as fireflies, ${stops.toFixed(1)} stops above their surroundings${carried}${held}.`,
      headline: first ? `Light found by chance in ${first.pass}` : 'Light found by chance',
      why: 'A single sample of the pixel hit a light that its neighbours missed. Only the scene can tell which light.',
    };
  },
  evidence: ({ pixels, byPass }) => [
    ...(byPass.length > 1
      ? [{ kind: 'shares' as const, title: 'Passes that carry them', bars: [{ label: 'pass', parts: byPass.map((one) => ({ label: one.pass, share: one.pixels / pixels.length })) }] }]
      : []),
    {
      kind: 'places',
      title: 'The brightest',
      places: [...pixels].sort((a, b) => b.stops - a.stops).slice(0, MOST_PLACES).map(({ x, y, stops }) => ({ label: `${x}, ${y}: ${stops.toFixed(1)} stops`, x, y })),
    },
  ], // prettier-ignore
  measured: ({ pixels, stops, energy, isAcrossFrames }) => ({ pixels: pixels.length, medianStops: stops, energy, isAcrossFrames }), // prettier-ignore
};

function casesOf(picture: PictureInput): PictureFireflies[] {
  const { width, height, luminance, albedo, beside } = picture;
  const found = findFireflies({ luminance, width, height, albedo });
  const pixels = notLasting(found.pixels, luminance, beside, width, height);
  if (pixels.length === 0) return [];
  const byPass = guiltyOf(pixels, picture);
  const mask = new Uint8Array(width * height);
  for (const { x, y } of pixels) mask[y * width + x] = 1;
  return [
    {
      key: 'fireflies',
      severity: pixels.length > MANY * width * height ? 'caution' : 'note',
      region: regionOf(pixels),
      mask,
      passes: byPass.map(({ pass }) => pass),
      isElsewhereNext: true,
      pixels,
      stops: percentile(pixels.map((one) => one.stops), 0.5),
      energy: found.energy,
      byPass,
      isAcrossFrames: beside.length > 0,
    },
  ]; // prettier-ignore
}

function guiltyOf(pixels: Firefly[], { passes, width, height }: PictureInput): { pass: string; pixels: number }[] {
  const counts = new Map<string, number>();
  for (const one of pixels) {
    const pass = guiltyPass(one, passes, width, height);
    if (pass !== null) counts.set(pass, (counts.get(pass) ?? 0) + 1);
  }
  return [...counts].map(([pass, count]) => ({ pass, pixels: count })).sort((a, b) => b.pixels - a.pixels);
}

function regionOf(pixels: Firefly[]): Region {
  const [xs, ys] = [pixels.map(({ x }) => x), pixels.map(({ y }) => y)];
  const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b));
  const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b));
  const [x, y] = [least(xs), least(ys)];
  return { x, y, width: most(xs) - x + 1, height: most(ys) - y + 1 };
}
