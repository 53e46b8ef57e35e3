/**
 * A displacement texture made anew so that the seams of what wears it close.
 *
 * @example
 * const wax = mendTexture('pad', assets.textures.get('wax')!, { wear: () => shapes, texels: 8, where: 'wax' });
 */
import type { Texture } from '../data/texture.ts';
import { isTiled, missingTiles, withTiles } from './fill-tiles.ts';
import { coverage } from './islands.ts';
import { matched } from './match-sides.ts';
import { padded, wellInside } from './pad.ts';
import type { WornShape } from './worn-shapes.ts';

export interface MendOptions {
  /** What wears a texture in place of the present one, as places on it. */
  wear(texture: Texture): WornShape[];
  /** Painted around islands. */
  texels: number;
  /** How the texture is called in messages. */
  where: string;
}

/** @throws RangeError where tiles would make too large an image */
export function mendTexture(how: 'pad' | 'match' | 'fill tiles', of: Texture, { wear, texels, where }: MendOptions): Texture {
  // What is no number counts as 0 in a render, and would spread here.
  const texture = { ...of, texels: of.texels.map((value) => (Number.isFinite(value) ? value : 0)) };
  const shapes = wear(texture);
  if (how === 'match') return matched(texture, shapes);
  // What lies around islands is free: it makes both sides read the same to the last digit.
  if (how === 'pad') return matched(padded(texture, { shapes, texels }), shapes, wellInside(coverage(shapes, texture), texture).map((is) => 1 - is));
  if (!isTiled(texture)) return texture;
  return withTiles(texture, missingTiles(texture, shapes), wear, where);
} // prettier-ignore
