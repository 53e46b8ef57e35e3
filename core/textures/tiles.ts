/**
 * UDIM tiles: images that lie beside each other in UV space, ten to a row from tile 1001 at (0, 0) on. They become one image, so
 * that filters read across the edge of a tile into the next one; where there is no tile it is black.
 *
 * Source of the numbers: MaterialX specification 1.38, "Filename Substitutions", token `<UDIM>`.
 *
 * @example
 * tileFile('textures/wax.<UDIM>.exr', 1002); // 'textures/wax.1002.exr'
 * const wax = joinTiles(new Map([[1001, left], [1002, right]]), 'textures/wax.<UDIM>.exr');
 */
import type { Texture, TextureTiles } from '../data/texture.ts';

export const TILE = '<UDIM>';
export const [FIRST_TILE, LAST_TILE] = [1001, 1999];

/** Texels around them all: the outermost are black, and those within are as the edge, so that filters at the edge do not see black. */
export const RIM = 2;
/** Texels that all tiles may have together where they stand in one image. */
const MOST_TEXELS = 2 ** 28;

export const tileFile = (file: string, tile: number): string => file.replaceAll(TILE, String(tile));
/** Column and row of a tile: whole parts of the UVs in it. */
export const tileAt = (tile: number): [number, number] => [
  (tile - FIRST_TILE) % 10,
  Math.floor((tile - FIRST_TILE) / 10),
];
export const tileNumber = (u: number, v: number): number => FIRST_TILE + Math.floor(u) + 10 * Math.floor(v);
/** Paths of a texture's files: one, or one a tile. */
export const filesOf = ({ file, tiles = [] }: { file: string; tiles?: number[] }): string[] => file.includes(TILE) ? tiles.map((tile) => tileFile(file, tile)) : [file]; // prettier-ignore

/**
 * @param where how the texture is called in messages
 * @throws RangeError when all together are more than an image holds
 */
export function joinTiles(tiles: ReadonlyMap<number, Texture>, where: string): Texture {
  const numbers = [...tiles.keys()];
  const places = numbers.map(tileAt);
  const [left, low] = [0, 1].map((a) => Math.min(...places.map((place) => place[a])));
  const [columns, rows] = [0, 1].map((a) => Math.max(...places.map((place) => place[a])) - [left, low][a] + 1);
  const all = [...tiles.values()];
  const [width, height] = [Math.max(...all.map((one) => one.width)), Math.max(...all.map((one) => one.height))];
  const texels = (columns * width + 2 * RIM) * (rows * height + 2 * RIM);
  if (texels > MOST_TEXELS)
    throw new RangeError(`${where}: its tiles make an image of ${(texels / 1e6).toFixed(0)} million texels, ${(MOST_TEXELS / 1e6).toFixed(0)} at most are taken`); // prettier-ignore
  const [first] = all;
  const out: Texture & { tiles: TextureTiles } = {
    width: columns * width + 2 * RIM,
    height: rows * height + 2 * RIM,
    texels: new Float32Array(3 * texels),
    alpha: all.some(({ alpha }) => alpha) ? new Float32Array(texels).fill(1) : null,
    ...(first.colourSpace && { colourSpace: first.colourSpace }),
    tiles: { left, low, columns, rows, there: new Uint8Array(columns * rows) },
  };
  tiles.forEach((tile, number) => {
    const [column, row] = tileAt(number);
    out.tiles.there[(row - low) * columns + column - left] = 1;
    const from = cornerOf(out, number);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = Math.floor((y * tile.height) / height) * tile.width + Math.floor((x * tile.width) / width);
        const to = from + y * out.width + x;
        for (let c = 0; c < 3; c++) out.texels[3 * to + c] = tile.texels[3 * at + c];
        if (out.alpha) out.alpha[to] = tile.alpha ? tile.alpha[at] : 1;
      }
  });
  copyEdges(out);
  return out;
}

/** Texels of one tile. */
export const tileSize = ({ width, height, tiles: { columns, rows } }: Pick<Texture, 'width' | 'height'> & { tiles: TextureTiles }): [number, number] => [(width - 2 * RIM) / columns, (height - 2 * RIM) / rows]; // prettier-ignore

/** Number of a tile's first texel. Rows of images run from the top, rows of tiles from the bottom. */
function cornerOf(texture: Texture & { tiles: TextureTiles }, tile: number): number {
  const [width, height] = tileSize(texture);
  const { rows, left, low } = texture.tiles;
  const [column, row] = tileAt(tile);
  return (RIM + (rows - 1 - (row - low)) * height) * texture.width + RIM + (column - left) * width;
}

/** The inner of the texels around all tiles are those at the edge. */
function copyEdges({ width, height, texels, alpha }: Texture): void {
  const [near, farX, farY] = [RIM, width - RIM - 1, height - RIM - 1];
  const copy = (x: number, y: number, fromX: number, fromY: number) => {
    const [to, from] = [y * width + x, fromY * width + fromX];
    for (let c = 0; c < 3; c++) texels[3 * to + c] = texels[3 * from + c];
    if (alpha) alpha[to] = alpha[from];
  };
  const inside = (at: number, far: number) => Math.min(far, Math.max(near, at));
  for (let y = near - 1; y <= farY + 1; y++)
    for (const x of [near - 1, farX + 1]) copy(x, y, inside(x, farX), inside(y, farY));
  for (let x = near; x <= farX; x++) for (const y of [near - 1, farY + 1]) copy(x, y, x, inside(y, farY));
}

/** One tile of those that were joined. */
export function cutTile(texture: Texture & { tiles: TextureTiles }, tile: number): Texture {
  const [width, height] = tileSize(texture);
  const corner = cornerOf(texture, tile);
  const texels = new Float32Array(3 * width * height);
  for (let y = 0; y < height; y++) {
    const from = corner + y * texture.width;
    texels.set(texture.texels.subarray(3 * from, 3 * (from + width)), 3 * y * width);
  }
  return { width, height, texels, alpha: null };
}
