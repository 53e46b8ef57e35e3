/**
 * An environment as a light: where its brightest part is and how much of its light comes from there, and what places get of it
 * however it is turned. Directions are drawn from the sky's own distribution (Pharr, Jakob & Humphreys, third edition, 14.2.4)
 * by the Hammersley points, so that answers are the same every time.
 *
 * @example
 * const turned = sweepRotation(walk, [place], { steps: 36 });
 * turned[4]; // { turn: 40, irradiance: 1.7 }: turned by 40 degrees it brings 1.7 W/m² to the place
 */
import { luminance } from '../data/colour.ts';
import { sunPlaceOf, type SunPlace, type Triple } from '../data/placement.ts';
import { placedAt } from '../data/aim.ts';
import { directionOf, sampleSky, skyRadiance } from '../lights/sky.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import { DISTANT_DIRECTION } from '../lights/distant.ts';
import { LIGHT_STRIDE } from '../lights/table.ts';
import { radicalInverse, unshadowed, type LightWalk } from './light-walk.ts';
import type { Place } from './surface-walk.ts';

export interface EnvironmentMeasured {
  /** Mean radiance over the sphere, luminance, W/(sr m²), and irradiance on level ground with nothing around. */
  mean: number;
  level: number;
  /** The brightest hundredth of the sphere: its middle, its share of all light, and stops above the mean. */
  brightest: SunPlace & { share: number; stops: number };
}

/** Rows and columns that the sphere is looked at by. */
const [ROWS, COLUMNS] = [128, 256];
/** Share of the sphere whose light is told apart. */
const HUNDREDTH = 0.01;

/** @returns null for an environment that sends nothing */
export function measureEnvironment({ sky, chains }: CompiledScene): EnvironmentMeasured | null {
  const out = new Float64Array(3);
  const cells: { light: number; angle: number; direction: Triple }[] = [];
  let [all, level] = [0, 0];
  for (let row = 0; row < ROWS; row++) {
    const angle = ((2 * Math.PI) / COLUMNS) * (Math.cos((row / ROWS) * Math.PI) - Math.cos(((row + 1) / ROWS) * Math.PI)); // prettier-ignore
    for (let column = 0; column < COLUMNS; column++) {
      const direction = directionOf(sky, (column + 0.5) / COLUMNS, 1 - (row + 0.5) / ROWS);
      skyRadiance(sky, chains, ...direction, out);
      const light = angle * luminance(out[0], out[1], out[2]);
      all += light;
      level += light * Math.max(0, direction[1]);
      cells.push({ light, angle, direction });
    }
  }
  if (!(all > 0)) return null;
  const mean = all / (4 * Math.PI);
  let [light, angle] = [0, 0];
  const middle: Triple = [0, 0, 0];
  for (const cell of cells.sort((a, b) => b.light / b.angle - a.light / a.angle)) {
    if (angle >= HUNDREDTH * 4 * Math.PI) break;
    light += cell.light;
    angle += cell.angle;
    for (let a = 0; a < 3; a++) middle[a] += cell.light * cell.direction[a];
  }
  const length = Math.hypot(...middle) || 1;
  const from = middle.map((v) => v / length) as Triple;
  return {
    mean,
    level,
    brightest: { ...sunPlaceOf(placedAt(from, [0, 0, 0])), share: light / all, stops: Math.log2(light / angle / mean) },
  };
}

export interface Turned {
  /** Degrees that it is turned by, from where it stands. */
  turn: number;
  /** Irradiance that it brings, the mean over places, luminance, W/m². */
  irradiance: number;
}

/**
 * What places get of the environment as it is turned about +Y, the sun of a daylight sky with it, shadows traced.
 * @param steps turns that are tried, evenly around
 * @param rays from each place at each turn
 */
export function sweepRotation(
  walk: LightWalk,
  places: readonly Place[],
  { steps = 36, rays = 256 }: { steps?: number; rays?: number } = {},
): Turned[] {
  const { scene } = walk;
  const row = scene.lightIds.indexOf('environment');
  if (row < 0 || places.length === 0) return [];
  const sun = sunOf(walk, places[0]);
  const [direction, radiance] = [new Float64Array(3), new Float64Array(3)];
  return Array.from({ length: steps }, (_, step) => {
    const turn = (360 * step) / steps;
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    const sky = { ...scene.sky, turn: Float64Array.of(scene.sky.turn[0] * c - scene.sky.turn[1] * s, scene.sky.turn[1] * c + scene.sky.turn[0] * s) }; // prettier-ignore
    let sum = 0;
    for (const place of places)
      for (let k = 0; k < rays; k++) {
        const density = sampleSky(sky, (k + 0.5) / rays, radicalInverse(k), direction);
        const way: Triple = [direction[0], direction[1], direction[2]];
        const cosine = dot(way, place.shadingNormal);
        if (!(density > 0) || cosine <= 0 || dot(way, place.normal) <= 0) continue;
        skyRadiance(sky, scene.chains, way[0], way[1], way[2], radiance);
        const brought = (luminance(radiance[0], radiance[1], radiance[2]) * cosine) / (density * rays);
        if (brought > 0) sum += brought * walk.shareFrom(place, row, way, Infinity);
      }
    const sunned = sun ? places.reduce((all, place) => all + sunAt(walk, place, sun, c, s), 0) : 0;
    return { turn, irradiance: (sum + sunned) / places.length };
  });
}

interface Sun {
  row: number;
  /** Unit, towards it as it stands; irradiance at normal incidence, luminance, W/m². */
  direction: Triple;
  irradiance: number;
}

/** The sun of a daylight sky, which turns with it. */
function sunOf(walk: LightWalk, place: Place): Sun | null {
  const { scene } = walk;
  const row = scene.lightIds.indexOf('sun of the sky');
  if (row < 0) return null;
  const at = row * LIGHT_STRIDE + DISTANT_DIRECTION;
  const direction: Triple = [scene.lights[at], scene.lights[at + 1], scene.lights[at + 2]];
  const facing = { ...place, normal: direction, shadingNormal: direction };
  return { row, direction, irradiance: unshadowed(walk.towards(facing, row, 1).rays) };
}

/** Irradiance of the sun at a place, turned by an angle of this cosine and sine. */
function sunAt(
  walk: LightWalk,
  place: Place,
  { row, direction: [x, y, z], irradiance }: Sun,
  c: number,
  s: number,
): number {
  // prettier-ignore
  const way: Triple = [c * x + s * z, y, c * z - s * x];
  const cosine = dot(way, place.shadingNormal);
  if (cosine <= 0 || dot(way, place.normal) <= 0) return 0;
  return irradiance * cosine * walk.shareFrom(place, row, way, Infinity);
}

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
