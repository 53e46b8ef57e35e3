/**
 * Light from everywhere that nothing else is: one colour, a run from nadir to zenith, or a lat-long image, which a daylight sky is
 * made into.
 *
 * A lat-long image stands as the OpenEXR file layout document defines it: latitude +90° at the top, longitude
 * +180° at the left edge and −180° at the right; +Z is longitude 0, +X longitude 90°, +Y latitude 90°.
 *
 * Directions are drawn from texels in proportion to solid angle times the maximum over the 3 × 3 texels around,
 * so that filtered look-ups never meet a zero. Source: Pharr, Jakob & Humphreys, Physically Based Rendering,
 * third edition, section 14.2.4 (tabulated distributions).
 */
import { toInt, type i32 } from '../data/numbers.ts';
import { luminance } from '../data/colour.ts';
import { turn } from '../data/turns.ts';
import type { Texture } from '../data/texture.ts';
import type { SkySpec } from '../document/schema.ts';
import { BILINEAR, sampleImage, CLAMP } from '../textures/image.ts';
import { colourAt, compileStops } from '../textures/stops.ts';

export const SKY_CONSTANT = 0;
export const SKY_GRADIENT = 1;
export const SKY_IMAGE = 2;

export interface Sky {
  kind: i32;
  /** Colour × intensity. */
  scale: Float64Array;
  stops: Float64Array;
  /** Number of the texture, or −1. */
  texture: i32;
  /** Cosine and sine of the rotation. */
  turn: Float64Array;
  distribution: SkyDistribution | null;
}

/** Piecewise constant chances over rows and columns of a lat-long grid. */
export interface SkyDistribution {
  width: i32;
  height: i32;
  /** Cumulative chance of rows, `height` values up to 1. */
  rows: Float64Array;
  /** Cumulative chance of columns within each row. */
  columns: Float64Array;
  /** 1/sr, per texel. */
  density: Float64Array;
}

const GRADIENT_ROWS = 512;

/** @param chain the image and its halved copies, or null */
export function compileSky(spec: SkySpec, texture: number, chain: Texture[] | null, sampled: boolean): Sky {
  const angle = (spec.rotation * Math.PI) / 180;
  // A daylight sky is looked up as the image that was made of it.
  const kind = spec.kind === 'constant' ? SKY_CONSTANT : spec.kind === 'gradient' ? SKY_GRADIENT : SKY_IMAGE;
  const sky: Sky = {
    kind,
    scale: Float64Array.from(spec.colour, (c) => c * spec.intensity),
    stops: compileStops(spec.stops),
    texture,
    turn: Float64Array.of(Math.cos(angle), Math.sin(angle)),
    distribution: null,
  };
  if (sampled && kind === SKY_IMAGE) sky.distribution = distributionOfImage(chain![0]);
  if (sampled && kind === SKY_GRADIENT) sky.distribution = distributionOfGradient(sky);
  return sky;
}

/** Writes the radiance seen along the unit direction (x, y, z) to `out[0..2]`. */
export function skyRadiance(sky: Sky, chains: Texture[][], x: number, y: number, z: number, out: Float64Array): void {
  const { scale, turn } = sky;
  if (sky.kind === SKY_CONSTANT) {
    out[0] = scale[0];
    out[1] = scale[1];
    out[2] = scale[2];
    return;
  }
  const v = 0.5 + Math.asin(Math.min(1, Math.max(-1, y))) / Math.PI;
  if (sky.kind === SKY_GRADIENT) colourAt(sky.stops, v, out);
  else {
    const ax = turn[0] * x - turn[1] * z;
    const az = turn[1] * x + turn[0] * z;
    lookUp(chains[sky.texture], 0.5 - Math.atan2(ax, az) / (2 * Math.PI), v, out);
  }
  out[0] *= scale[0];
  out[1] *= scale[1];
  out[2] *= scale[2];
}

/**
 * The unit direction that a place of a lat-long image stands for, as the sky is turned; its inverse is in `skyRadiance`.
 * @param u 0 at the left edge, and `v` 0 at the lower one
 */
export function directionOf({ turn }: Sky, u: number, v: number): [number, number, number] {
  const [latitude, longitude] = [Math.PI * (v - 0.5), 2 * Math.PI * (0.5 - u)];
  const ax = Math.cos(latitude) * Math.sin(longitude);
  const az = Math.cos(latitude) * Math.cos(longitude);
  return [turn[0] * ax + turn[1] * az, Math.sin(latitude), turn[0] * az - turn[1] * ax];
}

/** Bilinear, round the circle in longitude and held at the poles. */
function lookUp(chain: Texture[], u: number, v: number, out: Float64Array): void {
  const { width, height } = chain[0];
  // Columns wrap and rows do not: near the seam the look-up is done from both sides.
  const edge = 0.5 / width;
  const inside = Math.min(1 - 0.5 / height, Math.max(0.5 / height, v));
  if (u >= edge && u <= 1 - edge) {
    sampleImage(chain, u, inside, BILINEAR, CLAMP, 0, out);
    return;
  }
  const w = u < edge ? 0.5 - u / (2 * edge) : 0.5 - (1 - u) / (2 * edge);
  const near = u < edge ? edge : 1 - edge;
  sampleImage(chain, 1 - near, inside, BILINEAR, CLAMP, 0, out);
  const r = out[0];
  const g = out[1];
  const b = out[2];
  sampleImage(chain, near, inside, BILINEAR, CLAMP, 0, out);
  out[0] += w * (r - out[0]);
  out[1] += w * (g - out[1]);
  out[2] += w * (b - out[2]);
}

/** Density, 1/sr, with which `sampleSky` draws a direction. */
export function skyDensity(sky: Sky, x: number, y: number, z: number): number {
  const d = sky.distribution;
  if (d === null) return 1 / (4 * Math.PI);
  const v = 0.5 - Math.asin(Math.min(1, Math.max(-1, y))) / Math.PI;
  const row = least(d.height - 1, toInt(Math.floor(v * d.height)));
  if (d.width === 1) return d.density[row];
  const ax = sky.turn[0] * x - sky.turn[1] * z;
  const az = sky.turn[1] * x + sky.turn[0] * z;
  const u = 0.5 - Math.atan2(ax, az) / (2 * Math.PI);
  const column = least(d.width - 1, toInt(Math.max(0, Math.floor(u * d.width))));
  return d.density[row * d.width + column];
}

const least = (a: i32, b: i32): i32 => (a < b ? a : b);

/** Draws a unit direction from two uniform numbers to `out[0..2]`; returns its density, 1/sr. */
export function sampleSky(sky: Sky, u: number, v: number, out: Float64Array): number {
  const d = sky.distribution;
  if (d === null) {
    const z = 1 - 2 * u;
    const r = Math.sqrt(Math.max(0, 1 - z * z));
    turn(v, out);
    out[2] = r * out[1];
    out[0] *= r;
    out[1] = z;
    return 1 / (4 * Math.PI);
  }
  const row = find(d.rows, 0, d.height, v);
  const below = row > 0 ? d.rows[row - 1] : 0;
  const fv = (v - below) / (d.rows[row] - below);
  const first = row * d.width;
  const column = find(d.columns, first, d.width, u) - first;
  const left = column > 0 ? d.columns[first + column - 1] : 0;
  const fu = (u - left) / (d.columns[first + column] - left);
  // Even in solid angle within the texel: even in the sine of the latitude.
  const top = Math.cos((row / d.height) * Math.PI);
  const bottom = Math.cos(((row + 1) / d.height) * Math.PI);
  const y = top + Math.min(1, Math.max(0, fv)) * (bottom - top);
  const r = Math.sqrt(Math.max(0, 1 - y * y));
  const longitude = Math.PI * (1 - (2 * (column + Math.min(1, Math.max(0, fu)))) / d.width);
  const ax = r * Math.sin(longitude);
  const az = r * Math.cos(longitude);
  out[0] = sky.turn[0] * ax + sky.turn[1] * az;
  out[1] = y;
  out[2] = -sky.turn[1] * ax + sky.turn[0] * az;
  return d.density[first + column];
}

function find(cumulative: Float64Array, first: i32, count: i32, u: number): i32 {
  let low = first;
  let high = first + count - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (cumulative[middle] > u) high = middle;
    else low = middle + 1;
  }
  return low;
}

function distributionOfImage({ width, height, texels }: Texture): SkyDistribution | null {
  const bright = new Float64Array(width * height);
  for (let i = 0; i < bright.length; i++)
    bright[i] = Math.max(0, luminance(texels[i * 3], texels[i * 3 + 1], texels[i * 3 + 2]));
  const weight = new Float64Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let most = 0;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const row = Math.min(height - 1, Math.max(0, y + dy));
          most = Math.max(most, bright[row * width + ((x + dx + width) % width)]);
        }
      weight[y * width + x] = most;
    }
  return distribution(width, height, weight);
}

function distributionOfGradient(sky: Sky): SkyDistribution | null {
  const out = new Float64Array(3);
  const row = (y: number) => {
    colourAt(sky.stops, 1 - (y + 0.5) / GRADIENT_ROWS, out);
    return luminance(out[0] * sky.scale[0], out[1] * sky.scale[1], out[2] * sky.scale[2]);
  };
  const bright = Float64Array.from({ length: GRADIENT_ROWS }, (_, y) => row(y));
  const weight = bright.map((_, y) => Math.max(...bright.slice(Math.max(0, y - 1), y + 2)));
  return distribution(1, GRADIENT_ROWS, weight);
}

/** Null where nothing shines. */
function distribution(width: number, height: number, weight: Float64Array): SkyDistribution | null {
  const rows = new Float64Array(height);
  const columns = new Float64Array(width * height);
  const density = new Float64Array(width * height);
  let total = 0;
  for (let y = 0; y < height; y++) {
    const solidAngle =
      ((2 * Math.PI) / width) * (Math.cos((y / height) * Math.PI) - Math.cos(((y + 1) / height) * Math.PI));
    let sum = 0;
    for (let x = 0; x < width; x++) {
      sum += weight[y * width + x] * solidAngle;
      columns[y * width + x] = sum;
      density[y * width + x] = weight[y * width + x];
    }
    for (let x = 0; x < width; x++) columns[y * width + x] = sum > 0 ? columns[y * width + x] / sum : (x + 1) / width;
    total += sum;
    rows[y] = total;
  }
  if (!(total > 0)) return null;
  for (let y = 0; y < height; y++) rows[y] /= total;
  for (let i = 0; i < density.length; i++) density[i] /= total;
  return { width, height, rows, columns, density };
}
