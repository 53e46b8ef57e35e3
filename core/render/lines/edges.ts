/**
 * Where a picture has an edge: between two neighbouring subpixels whose objects, materials, normals or depths differ. Each is
 * then found between the two by bisection, to a 32nd of a pixel, so that lines are as smooth as what they follow.
 *
 * Source: Saito & Takahashi, "Comprehensible Rendering of 3-D Shapes", SIGGRAPH 1990: lines from what the first surfaces
 * are, not from their colours; profiles where depth jumps, inner edges where the slope does. Depth is held against the
 * planes of both faces and not against its second difference, which a floor seen at a grazing angle exceeds.
 */
import type { Region } from '../../data/picture.ts';
import type { Sheet } from '../../document/schema.ts';
import type { CompiledScene } from '../scene/scene.ts';
import { FirstSurfaces } from './first-surfaces.ts';

/** Subpixels of a pixel in each direction. */
export const FINE = 4;
const BISECTIONS = 3;

/** Which differences make a line, from the sheet. */
export type LineRules = Pick<Sheet['lines'], 'objects' | 'materials' | 'normal' | 'depth'>;

export interface Edges {
  /** The grid's corner, in subpixels of the full frame, and its size. */
  x: number;
  y: number;
  columns: number;
  rows: number;
  /** Part of the way from a subpixel to the one right of it at which an edge is crossed; −1: none. Row by row. */
  across: Float32Array;
  /** The same to the one below. */
  down: Float32Array;
}

/**
 * @param region pixels of the full frame, beyond its borders too
 * @returns edges between its subpixels
 */
export function findEdges(
  scene: CompiledScene,
  frame: { width: number; height: number; rayDistance: number | null },
  rules: LineRules,
  region: Region,
): Edges {
  const [x, y, columns, rows] = [region.x, region.y, region.width, region.height].map((n) => n * FINE);
  const count = columns * rows;
  // Three more slots for the bisection: either side, and the middle.
  const seen = new FirstSurfaces(scene, frame, count + 3);
  const pixelOf = (n: number) => (n + 0.5) / FINE - 0.5;
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) seen.look(pixelOf(x + i), pixelOf(y + j), j * columns + i);
  const differ = new Difference(seen, rules);
  const across = new Float32Array(count).fill(-1);
  const down = new Float32Array(count).fill(-1);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = j * columns + i;
      if (i + 1 < columns && differ.between(at, at + 1))
        across[at] = differ.place(at, at + 1, count, (part, slot) => seen.look(pixelOf(x + i + part), pixelOf(y + j), slot)); // prettier-ignore
      if (j + 1 < rows && differ.between(at, at + columns))
        down[at] = differ.place(at, at + columns, count, (part, slot) => seen.look(pixelOf(x + i), pixelOf(y + j + part), slot)); // prettier-ignore
    }
  return { x, y, columns, rows, across, down };
}

class Difference {
  private readonly leastCosine: number;

  constructor(
    private readonly seen: FirstSurfaces,
    private readonly rules: LineRules,
  ) {
    this.leastCosine = rules.normal === null ? -2 : Math.cos((rules.normal * Math.PI) / 180);
  }

  /** Whether a line runs between slots `a` and `b`. */
  between(a: number, b: number): boolean {
    const { object, material, depth, point, face, normal } = this.seen;
    const { objects, materials, depth: share } = this.rules;
    if (object[a] !== object[b] && objects) return true;
    if (object[a] < 0 || object[b] < 0) return object[a] !== object[b] && share !== null;
    if (material[a] !== material[b] && materials) return true;
    const [i, j] = [a * 3, b * 3];
    if (normal[i] * normal[j] + normal[i + 1] * normal[j + 1] + normal[i + 2] * normal[j + 2] < this.leastCosine)
      return true;
    if (share === null) return false;
    let offA = 0;
    let offB = 0;
    for (let k = 0; k < 3; k++) {
      const way = point[j + k] - point[i + k];
      offA += way * face[i + k];
      offB += way * face[j + k];
    }
    return Math.min(Math.abs(offA), Math.abs(offB)) > share * Math.min(depth[a], depth[b]);
  }

  /**
   * Where between two slots that differ.
   * @param spare first of three slots to work in
   * @param look fills a slot with what is at a part of the way
   * @returns part of the way, 0–1
   */
  place(a: number, b: number, spare: number, look: (part: number, slot: number) => void): number {
    let [from, to] = [0, 1];
    let [low, high, middle] = [a, b, spare];
    for (let step = 0; step < BISECTIONS; step++) {
      const part = (from + to) / 2;
      look(part, middle);
      // A slope that is steep over the whole way and sudden nowhere is crossed in the middle of it.
      if (this.between(low, middle)) [to, high] = [part, middle];
      else if (this.between(middle, high)) [from, low] = [part, middle];
      else return part;
      middle = middle === spare ? spare + 1 : middle + 1;
    }
    return (from + to) / 2;
  }
}
