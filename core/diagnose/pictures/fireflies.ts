/** Fireflies of a picture: how many, in which pass, how much light they hold; those that last from frame to frame are glints. */
import { findFireflies, guiltyPass, notLasting, type Firefly } from '../../picture/fireflies.ts';
import type { PictureDiagnosis, PictureToDiagnose } from './picture-diagnosis.ts';

/** Pixels that are named, the brightest. */
const MOST_EXAMPLES = 20;
/** A share of the pixels from which it is no detail any more. */
const MANY = 1e-4;

export const fireflies: PictureDiagnosis = {
  family: 'fireflies',
  examine(picture) {
    const { width, height, luminance, albedo, beside } = picture;
    const found = findFireflies({ luminance, width, height, albedo });
    const pixels = notLasting(found.pixels, luminance, beside, width, height);
    if (pixels.length === 0) return [];
    const guilty = guiltyOf(pixels, picture);
    const [first] = guilty;
    const stops = median(pixels.map((one) => one.stops));
    const many = pixels.length === 1 ? 'One pixel stands out' : `${pixels.length} pixels stand out`;
    const held = found.energy >= 0.005 ? `; they hold ${Math.round(found.energy * 100)} % of the light` : '';
    const carried = first ? `; ${first.pass} carries ${first.pixels} of them` : '';
    return [
      {
        family: 'fireflies',
        cause: first ? `light met by chance in ${first.pass}` : 'light met by chance',
        severity: pixels.length > MANY * width * height ? 'caution' : 'note',
        sentence: `${many} as fireflies, ${stops.toFixed(1)} stops above their surroundings${carried}${held}.`,
        where: { region: regionOf(pixels), pixels: pixels.length, objects: [], passes: guilty.map(({ pass }) => pass) },
        evidence: {
          medianStops: stops,
          energy: found.energy,
          byPass: guilty,
          isAcrossFrames: beside.length > 0,
          examples: [...pixels].sort((a, b) => b.stops - a.stops).slice(0, MOST_EXAMPLES),
        },
        remedies: [],
      },
    ];
  },
};

function guiltyOf(pixels: Firefly[], { passes, width, height }: PictureToDiagnose): { pass: string; pixels: number }[] {
  const counts = new Map<string, number>();
  for (const one of pixels) {
    const pass = guiltyPass(one, passes, width, height);
    if (pass !== null) counts.set(pass, (counts.get(pass) ?? 0) + 1);
  }
  return [...counts].map(([pass, count]) => ({ pass, pixels: count })).sort((a, b) => b.pixels - a.pixels);
}

function regionOf(pixels: Firefly[]) {
  const [xs, ys] = [pixels.map(({ x }) => x), pixels.map(({ y }) => y)];
  const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b));
  const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b));
  const [x, y] = [least(xs), least(ys)];
  return { x, y, width: most(xs) - x + 1, height: most(ys) - y + 1 };
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
}
