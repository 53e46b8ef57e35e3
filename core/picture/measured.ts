/** What a film measured over a region, as planes that diagnoses read; made from films or from pictures. */
import { luminance } from '../data/colour.ts';
import type { Picture, Region } from '../data/picture.ts';
import { channel } from '../data/picture.ts';

export type Plane = Float32Array;

/** Luminance of a light pass. */
export function luminancePlane(picture: Picture, pass: string): Plane {
  const r = channel(picture, `${pass}.R`);
  const g = channel(picture, `${pass}.G`);
  const b = channel(picture, `${pass}.B`);
  return r.map((_, i) => luminance(r[i], g[i], b[i]));
}

/** Luminance of three channels by their names. */
export function luminanceOf([r, g, b]: [string, string, string], planes: Map<string, ArrayLike<number>>): Float32Array {
  const [red, green, blue] = [planes.get(r)!, planes.get(g)!, planes.get(b)!];
  const out = new Float32Array(red.length);
  for (let i = 0; i < out.length; i++) out[i] = luminance(red[i], green[i], blue[i]);
  return out;
}

/** Copy of the part of a plane inside `region` (which must lie inside the picture). */
export function cropPlane(picture: Picture, plane: Plane, region: Region): Plane {
  const out = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    const from = (region.y - picture.y + y) * picture.width + region.x - picture.x;
    out.set(plane.subarray(from, from + region.width), y * region.width);
  }
  return out;
}

/** Mean of a plane over squares of (2 × radius + 1)², cut off at its edges. */
export function boxMean(plane: ArrayLike<number>, width: number, height: number, radius: number): Float64Array {
  const across = new Float64Array(width * height);
  const out = new Float64Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [from, to] = [Math.max(0, x - radius), Math.min(width - 1, x + radius)];
      let sum = 0;
      for (let i = from; i <= to; i++) sum += plane[y * width + i];
      across[y * width + x] = sum / (to - from + 1);
    }
  for (let y = 0; y < height; y++) {
    const [from, to] = [Math.max(0, y - radius), Math.min(height - 1, y + radius)];
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = from; j <= to; j++) sum += across[j * width + x];
      out[y * width + x] = sum / (to - from + 1);
    }
  }
  return out;
}

/**
 * The window of the given size that holds the most of a plane, found over a summed area table.
 * @returns a region in full-frame pixels inside the picture
 */
export function strongestWindow(picture: Picture, plane: ArrayLike<number>, width: number, height: number): Region {
  const w = Math.min(width, picture.width);
  const h = Math.min(height, picture.height);
  const stride = picture.width + 1;
  const table = new Float64Array(stride * (picture.height + 1));
  for (let y = 0; y < picture.height; y++)
    for (let x = 0; x < picture.width; x++)
      table[(y + 1) * stride + x + 1] =
        plane[y * picture.width + x] + table[y * stride + x + 1] + table[(y + 1) * stride + x] - table[y * stride + x];
  let best = -Infinity;
  let at = { x: 0, y: 0 };
  for (let y = 0; y + h <= picture.height; y++)
    for (let x = 0; x + w <= picture.width; x++) {
      const sum =
        table[(y + h) * stride + x + w] -
        table[y * stride + x + w] -
        table[(y + h) * stride + x] +
        table[y * stride + x];
      if (sum > best * (1 + 1e-12)) {
        best = sum;
        at = { x, y };
      }
    }
  return { x: at.x + picture.x, y: at.y + picture.y, width: w, height: h };
}

/** The value below which `share` (0–1) of the values lie. */
export function percentile(values: Iterable<number>, share: number): number {
  const sorted = Float64Array.from(values).sort();
  return sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] : 0;
}
