/**
 * Tiles that are missing, made of what meets them across seams, so that the surface closes until the right one is there: along a
 * seam as its other side, further in as what is near.
 */
import type { Texture, TextureTiles } from '../data/texture.ts';
import { cutTile, FIRST_TILE, joinTiles, RIM, tileAt, tileSize } from '../textures/tiles.ts';
import { matched } from './match-sides.ts';
import { padded } from './pad.ts';
import type { WornShape } from './worn-shapes.ts';

type Tiled = Texture & { tiles: TextureTiles };
export const isTiled = (texture: Texture): texture is Tiled => texture.tiles !== undefined;

/** Texels across a seam that are taken over as they are; further in it is what is near. */
const REACH = 4;

/** Tiles that lie under an island and have no file. @param shapes that wear the texture */
export function missingTiles(texture: Tiled, shapes: WornShape[]): number[] {
  const { left, low, columns, rows, there } = texture.tiles;
  const [width, height] = tileSize(texture);
  const missing = new Set<number>();
  for (const { mesh, texels } of shapes) {
    if (!texels) continue;
    const { indices } = mesh;
    for (let t = 0; t < indices.length; t += 3) {
      // By its middle: an island may end on the edge of a tile.
      const [x, y] = [0, 1].map((a) => (texels[2 * indices[t] + a] + texels[2 * indices[t + 1] + a] + texels[2 * indices[t + 2] + a]) / 3); // prettier-ignore
      const [column, row] = [Math.floor((x - RIM) / width), rows - 1 - Math.floor((y - RIM) / height)];
      const isThere = column >= 0 && row >= 0 && column < columns && row < rows && there[row * columns + column] === 1;
      const [u, v] = [left + column, low + row];
      if (!isThere && u >= 0 && u < 10 && v >= 0) missing.add(FIRST_TILE + u + 10 * v);
    }
  }
  return [...missing].sort((p, q) => p - q);
}

/**
 * @param wear gives what wears a texture of other tiles, as places on it
 * @returns the texture with those tiles too
 */
export function withTiles(texture: Tiled, missing: number[], wear: (texture: Texture) => WornShape[], where: string): Tiled {
  const [width, height] = tileSize(texture);
  const empty = { width, height, texels: new Float32Array(3 * width * height), alpha: null };
  const there = tilesOf(texture);
  const all = new Map([...there, ...missing.map((tile) => [tile, empty] as const)].sort(([a], [b]) => a - b));
  const joined = joinTiles(all, where) as Tiled;
  const isNew = new Uint8Array(joined.width * joined.height);
  for (const tile of missing) mark(isNew, joined, tile);
  const shapes = wear(joined);
  const filled = padded(joined, { shapes, texels: Math.max(width, height), reach: REACH, unpainted: isNew });
  const texels = joined.texels.map((value, i) => (isNew[Math.floor(i / 3)] ? filled.texels[i] : value));
  return { ...joined, texels: matched({ ...joined, texels }, shapes, isNew).texels };
} // prettier-ignore

/** The tiles that have a file, each by itself. */
export function tilesOf(texture: Tiled): Map<number, Texture> {
  const { left, low, columns, there } = texture.tiles;
  return new Map(
    [...there.keys()]
      .filter((k) => there[k] === 1)
      .map((k) => FIRST_TILE + left + (k % columns) + 10 * (low + Math.floor(k / columns)))
      .map((tile) => [tile, cutTile(texture, tile)]),
  );
}

function mark(out: Uint8Array, texture: Tiled, tile: number): void {
  const [width, height] = tileSize(texture);
  const { left, low, rows } = texture.tiles;
  const [column, row] = tileAt(tile);
  const [x0, y0] = [RIM + (column - left) * width, RIM + (rows - 1 - (row - low)) * height];
  for (let y = y0; y < y0 + height; y++) out.fill(1, y * texture.width + x0, y * texture.width + x0 + width);
}
