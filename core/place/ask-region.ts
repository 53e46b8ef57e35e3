/**
 * A region asked about its light: places spread over it, light by light, and the one place that tells most.
 *
 * @example
 * const answer = askRegion(walk, { x: 100, y: 60, width: 80, height: 40 }, { settings: settingsOf(sheet) })!;
 * answer.lights[0].shaded; // share of the region in the shadow of the first light
 */
import type { Region } from '../data/picture.ts';
import { percentile } from '../picture/measured.ts';
import { askPlace, type AskOptions, type LightAtPlace, type PlaceAnswer } from './ask.ts';
import type { LightWalk } from './light-walk.ts';

export interface RegionLight {
  /** Row of the scene's table. */
  light: number;
  /** Irradiance, the mean over places, luminance, W/m²: with nothing between, and as rendered. */
  unshadowed: number;
  arriving: number;
  /** Shares of the places: in its full shadow, at the edge of one, and where a shadow is missing. */
  shaded: number;
  edge: number;
  missing: number;
  /** Stops between its light and its shadow, and the width of its shadows' edges: medians; null where there are none. */
  contrast: number | null;
  penumbra: { metres: number; pixels: number } | null;
}

export interface RegionAnswer {
  region: Region;
  /** Places that were asked, and how many more show no surface. */
  places: number;
  empty: number;
  /** What brings most first. */
  lights: RegionLight[];
  /** Irradiance of all lights as rendered, the mean; luminance, W/m². */
  direct: number;
  /** Where most of a shadow is missing, or else the place of middling light. */
  telling: { pixel: [number, number]; answer: PlaceAnswer };
}

/** Places in a region, about; and rays from each to a light. */
const PLACES = 36;
const RAYS = 24;
/** Shares of a light below which it is held back, and above which it is not. */
const [SHADED, LIT] = [0.02, 0.98];

/** @returns null where the region shows no surface */
export function askRegion(
  walk: LightWalk,
  region: Region,
  options: Pick<AskOptions, 'settings' | 'noiseTarget'> = {},
): RegionAnswer | null {
  // prettier-ignore
  const step = Math.max(1, Math.round(Math.sqrt((region.width * region.height) / PLACES)));
  const asked: { pixel: [number, number]; answer: PlaceAnswer }[] = [];
  let empty = 0;
  for (let y = region.y + Math.min(step, region.height) / 2; y < region.y + region.height; y += step)
    for (let x = region.x + Math.min(step, region.width) / 2; x < region.x + region.width; x += step) {
      const pixel: [number, number] = [Math.floor(x), Math.floor(y)];
      const place = walk.surfaceAt(...pixel);
      if (place) asked.push({ pixel, answer: askPlace(walk, place, { rays: RAYS }) });
      else empty += 1;
    }
  if (asked.length === 0) return null;
  const rows = new Map<number, LightAtPlace[]>();
  for (const { answer } of asked)
    for (const light of answer.lights) rows.set(light.light, [...(rows.get(light.light) ?? []), light]);
  const lights = [...rows].map(([light, at]) => regionLight(light, at, asked.length));
  const { pixel } = telling(asked);
  const place = walk.surfaceAt(...pixel)!;
  return {
    region,
    places: asked.length,
    empty,
    lights: lights.sort((a, b) => b.arriving - a.arriving || b.unshadowed - a.unshadowed),
    direct: mean(asked.map(({ answer }) => answer.direct), asked.length), // prettier-ignore
    telling: { pixel, answer: askPlace(walk, place, { ...options, pixel }) },
  };
}

function regionLight(light: number, at: LightAtPlace[], places: number): RegionLight {
  const lit = at.filter(({ notLit, unshadowed }) => notLit === null && unshadowed > 0);
  const part = ({ arriving, unshadowed }: LightAtPlace) => arriving / unshadowed;
  const median = (values: number[]) => (values.length > 0 ? percentile(values, 0.5) : null);
  const edges = lit.flatMap(({ penumbra, angle }) => (penumbra && angle !== null && penumbra.metres > 0 ? [penumbra] : [])); // prettier-ignore
  return {
    light,
    unshadowed: mean(lit.map(({ unshadowed }) => unshadowed), places), // prettier-ignore
    arriving: mean(lit.map(({ arriving }) => arriving), places), // prettier-ignore
    shaded: lit.filter((one) => part(one) <= SHADED).length / places,
    edge: lit.filter((one) => part(one) > SHADED && part(one) < LIT).length / places,
    missing: lit.filter(({ missing }) => missing !== null).length / places,
    contrast: median(lit.flatMap(({ contrast, angle }) => (contrast !== null && angle !== null ? [contrast] : []))),
    penumbra: edges.length > 0 ? { metres: median(edges.map(({ metres }) => metres))!, pixels: median(edges.map(({ pixels }) => pixels))! } : null, // prettier-ignore
  };
}

function telling<T extends { answer: PlaceAnswer }>(asked: T[]): T {
  const missing = ({ answer }: T) => answer.lights.reduce((sum, light) => sum + (light.missing ? light.arriving - light.natural : 0), 0); // prettier-ignore
  const most = asked.reduce((best, one) => (missing(one) > missing(best) ? one : best));
  if (missing(most) > 0) return most;
  const sorted = [...asked].sort((a, b) => a.answer.direct - b.answer.direct);
  return sorted[sorted.length >> 1];
}

const mean = (values: number[], count: number): number => values.reduce((sum, value) => sum + value, 0) / count;
