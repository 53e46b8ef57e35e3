/** Images of the small prints in HA-060, drawn by code. sRGB bytes, rows from the top; four a texel where there is alpha. */
import { draw } from '../ha-010/textures.ts';
import type { Drawing } from '../make-shot.ts';

type Colour = [number, number, number];
const PAPER: Colour = [232, 214, 160];
const INK: Colour = [92, 58, 20];
const SIZE = 128;
/** Of the tile: how far a die-cut label reaches from its middle, and how wide its edge is. */
const [RADIUS, EDGE] = [0.46, 0.012];

/** Rings about a cell of a comb. */
function roundPrint(u: number, v: number): Colour {
  const [x, y] = [u - 0.5, v - 0.5];
  const far = Math.hypot(x, y);
  const cell = Math.max(Math.abs(y), Math.abs(y) / 2 + Math.abs(x) * 0.866);
  return (far > 0.37 && far < 0.4) || (cell > 0.18 && cell < 0.23) ? INK : PAPER;
}

const leafPrint = (u: number, v: number): Colour => (Math.abs(u - 0.5) < 0.015 || Math.abs(((v * 9 + Math.abs(u - 0.5) * 6) % 1) - 0.5) < 0.05 ? [40, 84, 40] : [126, 168, 92]); // prettier-ignore

const roundAlpha = (u: number, v: number): number => Math.min(1, Math.max(0, (RADIUS - Math.hypot(u - 0.5, v - 0.5)) / EDGE + 0.5)); // prettier-ignore
const leafAlpha = (u: number, v: number): number => Math.min(1, Math.max(0, (RADIUS - Math.hypot((u - 0.5) * (1.5 + 0.8 * (1 - v)), v - 0.5)) / EDGE + 0.5)); // prettier-ignore

/** @param under colour of what is not there */
function cut(print: (u: number, v: number) => Colour, alpha: (u: number, v: number) => number, under: Colour | null): Drawing {
  const rgb = new Uint8Array(4 * SIZE * SIZE);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const [u, v] = [(x + 0.5) / SIZE, (y + 0.5) / SIZE];
      const a = alpha(u, v);
      rgb.set([...(a > 0 || !under ? print(u, v) : under), Math.round(255 * a)], 4 * (y * SIZE + x));
    }
  return { width: SIZE, height: SIZE, rgb };
} // prettier-ignore

/** A round label as it was exported: its alpha was lost, and where it ends it is black. */
export const roundLabel = (): Drawing => draw(SIZE, SIZE, (u, v) => (roundAlpha(u, v) > 0.5 ? roundPrint(u, v) : [0, 0, 0])); // prettier-ignore
/** The same with alpha. */
export const roundCutout = (): Drawing => cut(roundPrint, roundAlpha, null);
/** A leaf, black under what is not there. */
export const leaf = (): Drawing => cut(leafPrint, leafAlpha, [0, 0, 0]);

/** A bee of so many cells, four colours. */
const BEE = [
  '..............',
  '...kk....kk...',
  '..k..k..k..k..',
  '.....kkkk.....',
  '..wwwkkkkwww..',
  '.wwwwyyyywwww.',
  '.wwwwkkkkwwww.',
  '..wwwyyyywww..',
  '.....kkkk.....',
  '.....yyyy.....',
  '.....kkkk.....',
  '......kk......',
  '......kk......',
  '..............',
];
const COLOURS: Record<string, Colour> = { '.': [222, 206, 164], k: [34, 26, 20], w: [236, 240, 244], y: [226, 166, 34] }; // prettier-ignore

export const bee = (): Drawing => draw(BEE.length, BEE.length, (u, v) => COLOURS[BEE[Math.floor(v * BEE.length)][Math.floor(u * BEE.length)]]); // prettier-ignore
