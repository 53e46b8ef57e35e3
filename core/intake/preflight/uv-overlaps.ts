/**
 * Islands of UVs that lie on each other in part. Islands that cover each other as a whole are stacked on purpose (mirrored halves,
 * copies that share their paint), and those that leave the tile repeat a pattern: neither is told.
 *
 * @example
 * const [worst] = overlaps(poly, poly.uvs[0]);
 * worst?.share; // 0.3: 30 % of the smaller island lies under the other
 */
import type { CornerLayer, PolyMesh } from '../../data/poly-mesh.ts';

export interface Overlap {
  /** Of the smaller island's area, 0–1. */
  share: number;
  /** UV of a place that both cover. */
  at: [number, number];
}

/** Cells a side of the tile. */
const GRID = 256;
/** Shares of the smaller island: less is a border rounded to cells, more is an island stacked on another one. */
const [LEAST, STACKED] = [0.05, 0.9];
/** Cells of an island: of smaller ones a share says nothing. */
const FEWEST = 24;

/** @returns pairs of islands, the largest share first */
export function overlaps({ faceSizes }: PolyMesh, { values, indices }: CornerLayer): Overlap[] {
  if (values.some((value) => value < -1e-4 || value > 1 + 1e-4)) return [];
  const islandOf = islands(faceSizes, indices, values.length / 2);
  /** Island on each cell, first come; and its own cells of each island. */
  const first = new Int32Array(GRID * GRID).fill(-1);
  const areas = new Map<number, number>();
  const pairs = new Map<string, { of: [number, number]; cells: number; at: number }>();
  /** The island that a cell was last counted for. */
  const last = new Int32Array(GRID * GRID).fill(-1);
  const faces = facesByIsland(faceSizes, indices, islandOf);
  for (const { island, corners } of faces)
    for (let k = 2; k < corners.length; k++)
      for (const cell of cellsOf(values, corners[0], corners[k - 1], corners[k])) {
        if (last[cell] === island) continue;
        last[cell] = island;
        areas.set(island, (areas.get(island) ?? 0) + 1);
        if (first[cell] < 0) first[cell] = island;
        else if (first[cell] !== island) {
          const key = `${first[cell]} ${island}`;
          const pair = pairs.get(key) ?? { of: [first[cell], island] as [number, number], cells: 0, at: cell };
          pair.cells += 1;
          pairs.set(key, pair);
        }
      }
  return [...pairs.values()]
    .flatMap(({ of, cells, at }): Overlap[] => {
      const least = Math.min(...of.map((island) => areas.get(island)!));
      const share = cells / least;
      const place: [number, number] = [((at % GRID) + 0.5) / GRID, (Math.floor(at / GRID) + 0.5) / GRID];
      return least >= FEWEST && share >= LEAST && share <= STACKED ? [{ share, at: place }] : [];
    })
    .sort((a, b) => b.share - a.share);
}

/** Number of the island of each UV: UVs that faces join. */
function islands(faceSizes: Uint32Array, indices: Uint32Array, count: number): Int32Array {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  for (let f = 0, c = 0; f < faceSizes.length; c += faceSizes[f++])
    for (let k = 1; k < faceSizes[f]; k++) parent[root(indices[c + k])] = root(indices[c]);
  return parent.map((_, i) => root(i));
}

/** Faces, those of an island after each other, so that its cells are counted once. */
function facesByIsland(faceSizes: Uint32Array, indices: Uint32Array, islandOf: Int32Array) {
  const out: { island: number; corners: Uint32Array }[] = [];
  for (let f = 0, c = 0; f < faceSizes.length; c += faceSizes[f++]) out.push({ island: islandOf[indices[c]], corners: indices.subarray(c, c + faceSizes[f]) }); // prettier-ignore
  return out.sort((a, b) => a.island - b.island);
}

/** Cells whose middle lies in a triangle of UVs. */
function* cellsOf(values: Float32Array, a: number, b: number, c: number): Generator<number> {
  const [x, y] = [0, 1].map((k) => [a, b, c].map((uv) => values[2 * uv + k] * GRID - 0.5));
  const area = (x[1] - x[0]) * (y[2] - y[0]) - (x[2] - x[0]) * (y[1] - y[0]);
  if (area === 0) return;
  const inside = (p: number, q: number, px: number, py: number) => Math.sign(area) * ((x[q] - x[p]) * (py - y[p]) - (px - x[p]) * (y[q] - y[p])) > 0; // prettier-ignore
  const [low, high] = [(of: number[]) => Math.max(0, Math.ceil(Math.min(...of))), (of: number[]) => Math.min(GRID - 1, Math.floor(Math.max(...of)))]; // prettier-ignore
  for (let j = low(y); j <= high(y); j++)
    for (let i = low(x); i <= high(x); i++)
      if (inside(0, 1, i, j) && inside(1, 2, i, j) && inside(2, 0, i, j)) yield j * GRID + i;
}
