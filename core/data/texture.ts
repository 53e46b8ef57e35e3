import type { i32 } from './numbers.ts';

/** An image used by maps and skies: linear floats, rows from the top. */
export interface Texture {
  width: i32;
  height: i32;
  /** 3 values a texel, already linear Rec.709. */
  texels: Float32Array;
  /** 1 value a texel, 0–1, or null where all is opaque. */
  alpha: Float32Array | null;
  /** What its file's values were taken for; nothing where they could be taken for linear only. */
  colourSpace?: 'srgb' | 'linear';
  /** Of several images beside each other in UV space. */
  tiles?: TextureTiles;
}

/** Which part of UV space an image covers that was joined of tiles; each is 1 wide and high. */
export interface TextureTiles {
  /** U and V of its bottom left corner. */
  left: number;
  low: number;
  columns: number;
  rows: number;
  /** 1 where a tile has a file, row by row from the bottom. */
  there: Uint8Array;
}
