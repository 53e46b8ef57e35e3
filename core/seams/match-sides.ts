/**
 * A texture whose two sides of every seam read the same, by the least change that makes them so: halfway between what they read
 * before, where both may change. What changes at the border fades out over some texels within.
 *
 * Source of the solver: Kaczmarz, "Angenäherte Auflösung von Systemen linearer Gleichungen", 1937: each place on a seam is one
 * equation in the eight texels that a bilinear filter reads there, four on each side.
 *
 * Tried and left: the mean written to the texels at the border, which a filter between them does not give back; and the mean as
 * what either side is to read, which one that cannot change does not.
 */
import type { Texture } from '../data/texture.ts';
import { dilate } from '../textures/dilate.ts';
import { coverage, seamsOnTexture, wrapped } from './islands.ts';
import type { WornShape } from './worn-shapes.ts';

const SWEEPS = 80;
/** Texels over which the change fades. */
const FADE = 8;
/** Places on a seam, in texels. */
const STEP = 0.5;
/** Squared weight below which texels that may change have no hold on what is read. */
const LEAST = 0.01;
/** Texels of an equation. */
const TERMS = 8;

/**
 * @param may texels that may change, a byte each; all by default, and what changes at the border fades within
 * @returns a new texture
 */
export function matched(texture: Texture, shapes: WornShape[], may?: Uint8Array): Texture {
  const rows = equations(texture, shapes);
  const sharp = { ...texture, texels: texture.texels.slice() };
  solve(sharp, rows, may);
  if (may) return sharp;
  const faded = { ...texture, texels: fadedIn(texture, sharp, coverage(shapes, texture)) };
  solve(faded, rows);
  return faded;
}

interface Equations {
  /** Eight texels an equation, and their weights, which are to sum to 0. */
  texels: Uint32Array;
  weights: Float64Array;
}

function equations({ width, height }: Texture, shapes: WornShape[]): Equations {
  const texels: number[] = [];
  const weights: number[] = [];
  const read = (x: number, y: number, sign: number) => {
    const [fx, fy] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
    const [ax, ay] = [x - 0.5 - fx, y - 0.5 - fy];
    const [x0, x1, y0, y1] = [wrapped(fx, width), wrapped(fx + 1, width), wrapped(fy, height) * width, wrapped(fy + 1, height) * width];
    texels.push(y0 + x0, y0 + x1, y1 + x0, y1 + x1);
    weights.push(sign * (1 - ax) * (1 - ay), sign * ax * (1 - ay), sign * (1 - ax) * ay, sign * ax * ay);
  };
  // Each seam is told from both of its sides: one is enough.
  seamsOnTexture(shapes).forEach(({ here, there }, k) => {
    if (k % 2) return;
    const length = Math.max(Math.hypot(here[2] - here[0], here[3] - here[1]), Math.hypot(there[2] - there[0], there[3] - there[1]));
    const steps = Math.max(1, Math.ceil(length / STEP));
    for (let i = 0; i <= steps; i++) {
      const t = i / steps;
      read(here[0] + t * (here[2] - here[0]), here[1] + t * (here[3] - here[1]), 1);
      read(there[0] + t * (there[2] - there[0]), there[1] + t * (there[3] - there[1]), -1);
    }
  });
  return { texels: Uint32Array.from(texels), weights: Float64Array.from(weights) };
} // prettier-ignore

function solve({ texels: values }: Texture, { texels, weights }: Equations, may?: Uint8Array): void {
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let e = 0; e < texels.length; e += TERMS) {
      let norm = 0;
      for (let k = e; k < e + TERMS; k++) if (!may || may[texels[k]]) norm += weights[k] ** 2;
      if (norm < LEAST) continue;
      for (let c = 0; c < 3; c++) {
        let apart = 0;
        for (let k = e; k < e + TERMS; k++) apart += weights[k] * values[3 * texels[k] + c];
        apart /= norm;
        for (let k = e; k < e + TERMS; k++) if (!may || may[texels[k]]) values[3 * texels[k] + c] -= apart * weights[k];
      }
    }
}

/** What changed at the borders, carried inward and fading. */
function fadedIn(before: Texture, after: Texture, covered: Uint8Array): Float32Array {
  const change = { ...after, texels: after.texels.map((value, i) => value - before.texels[i]) };
  const isChanged = (i: number) => [0, 1, 2].some((c) => change.texels[3 * i + c] !== 0);
  const painted = covered.map((_, i) => Number(isChanged(i)));
  const rim = painted.slice();
  const rings = new Float32Array(painted.length).fill(Infinity);
  for (let ring = 0; ring <= FADE; ring++) {
    if (ring > 0) dilate(change, painted, { rings: 1 });
    painted.forEach((is, i) => is && rings[i] === Infinity && (rings[i] = ring));
  }
  return before.texels.map((value, j) => {
    const i = Math.floor(j / 3);
    const isWithin = covered[i] === 1 || rim[i] === 1;
    return isWithin && rings[i] <= FADE ? value + change.texels[j] * (1 - rings[i] / (FADE + 1)) : value;
  });
}
