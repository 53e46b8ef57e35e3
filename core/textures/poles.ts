/**
 * The poles of a latitude–longitude image. All of its first row is one direction, straight up, and all of its last one straight
 * down: texels that differ along it meet in a point, as a star. Where rows near a pole were never photographed and repeat the
 * next one (clamped), the star is as wide as they are.
 */
import { luminance } from '../data/colour.ts';
import type { Texture } from '../data/texture.ts';

export type PoleName = 'top' | 'bottom';

export interface PoleFault {
  pole: PoleName;
  /** Rows that repeat the last one that was there; 1: none does. */
  rows: number;
  /** Stops along the outermost row, from its 5th to its 95th percentile. */
  stops: number;
}

/** Stops along a row from which on a star is seen, and between rows below which one repeats the other. */
const SEEN = 0.3;
const SAME = 0.01;
/** What the outermost row has of the third one's stops: of a picture without a star a fifth, for its circle is so much smaller. */
const TIMES = 0.6;
/** Times that neighbours differ: where texels differ as much from one to the next, a star is not seen for the rest. */
const SMOOTH = 3;
const DARK = 1e-3;
/** Share of an image's rows that cameras leave out at a pole at most. */
const CLAMPED = 0.25;

/** Poles of an image that are pinched to a star; constant ones and such as a camera gives are not. */
export function poleFaults(image: Texture): PoleFault[] {
  const { height } = image;
  if (height < 8) return [];
  return (['top', 'bottom'] as const).flatMap((pole): PoleFault[] => {
    const row = (k: number) => levels(image, pole === 'top' ? k : height - 1 - k);
    const first = row(0);
    const stops = rangeOf(first);
    if (stops < SEEN) return [];
    let rows = 1;
    while (rows <= CLAMPED * height && differs(first, row(rows)) <= SAME) rows += 1;
    // Where rows are alike far beyond that, they were made so.
    if (rows > CLAMPED * height) rows = 1;
    const isPinched = stops >= TIMES * rangeOf(row(2)) && stops >= SMOOTH * roughness(first);
    return rows > 1 || isPinched ? [{ pole, rows, stops }] : [];
  });
}

/**
 * An image whose rows near a pole run into one colour there, the mean of the last row that is right.
 * @param rows that are made anew at each pole
 */
export function withEvenPoles(image: Texture, rows: Partial<Record<PoleName, number>>): Texture {
  const { width, height } = image;
  const texels = image.texels.slice();
  for (const pole of ['top', 'bottom'] as const) {
    const count = Math.min(Math.floor(height / 2), rows[pole] ?? 0);
    const at = (k: number) => (pole === 'top' ? k : height - 1 - k) * width * 3;
    const edge = image.texels.subarray(at(count), at(count) + 3 * width);
    const mean = [0, 1, 2].map((c) => edge.reduce((sum, v, i) => (i % 3 === c ? sum + v : sum), 0) / width);
    for (let k = 0; k < count; k++) {
      // Smooth at both ends: Hermite's cubic.
      const t = (k + 0.5) / count;
      const share = t * t * (3 - 2 * t);
      for (let i = 0; i < 3 * width; i++) texels[at(k) + i] = mean[i % 3] + share * (edge[i] - mean[i % 3]);
    }
  }
  return { ...image, texels };
}

function levels({ width, texels }: Texture, y: number): number[] {
  return Array.from({ length: width }, (_, x) => {
    const i = (y * width + x) * 3;
    return Math.log2(DARK + Math.max(0, luminance(texels[i], texels[i + 1], texels[i + 2])));
  });
}

function rangeOf(row: number[]): number {
  const sorted = Float64Array.from(row).sort();
  return sorted[Math.floor(0.95 * (row.length - 1))] - sorted[Math.ceil(0.05 * (row.length - 1))];
}
/** Stops from texel to texel, the mean; the row meets itself. */
const roughness = (row: number[]): number =>
  row.reduce((sum, v, i) => sum + Math.abs(v - row[(i + 1) % row.length]), 0) / row.length;
const differs = (a: number[], b: number[]): number => Math.max(...a.map((v, i) => Math.abs(v - b[i])));
