/** A map as bytes for the graphics card: what the stage shows unlit on surfaces. */
import { srgbFromLinear } from '../../core/data/colour.ts';
import type { Texture } from '../../core/data/texture.ts';
import type { MapSpec } from '../../core/document/schema.ts';
import { bakeMap } from '../../core/textures/bake.ts';
import { compileMap } from '../../core/textures/compiled-map.ts';
import { mipChain } from '../../core/textures/image.ts';

export interface MapImage {
  width: number;
  height: number;
  /** sRGB and alpha, rows from the bottom. */
  rgba: Uint8Array;
  wrap: 'repeat' | 'clamp' | 'mirror';
  /** UV of the mesh → UV of the image: two rows of an affine transform. */
  place: Float64Array;
  uvSet: number;
}

/** Texels a side: larger images are shown by a halved copy. */
const MOST = 2048;
/** Of maps that are no images. */
const BAKED = 512;

/** @param texture that an image map shows. @returns null for maps in the object’s space, which have no image */
export function mapImage(spec: MapSpec, texture: Texture | undefined): MapImage | null {
  if (spec.kind === 'noise-object' || spec.kind === 'waves') return null;
  if (spec.kind !== 'image') {
    // Its place on the surface is baked in with it.
    const baked = bakeMap(compileMap(spec, []), [], BAKED, BAKED);
    return { ...bytesOf(baked), wrap: 'clamp', place: Float64Array.of(1, 0, 0, 0, 1, 0), uvSet: spec.uvSet };
  }
  if (!texture) return null;
  const { place } = compileMap(spec, [spec.texture], texture);
  const shown = mipChain(texture).find(({ width, height }) => Math.max(width, height) <= MOST)!;
  return { ...bytesOf(shown), wrap: texture.tiles ? 'clamp' : spec.wrap, place, uvSet: spec.uvSet };
}

function bytesOf({ width, height, texels, alpha }: Texture): Pick<MapImage, 'width' | 'height' | 'rgba'> {
  const rgba = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [from, to] = [y * width + x, (height - 1 - y) * width + x];
      for (let c = 0; c < 3; c++) rgba[4 * to + c] = Math.round(255 * srgbFromLinear(Math.min(1, Math.max(0, texels[3 * from + c] || 0)))); // prettier-ignore
      rgba[4 * to + 3] = Math.round(255 * (alpha ? alpha[from] : 1));
    }
  return { width, height, rgba };
}

/** UVs of a mesh as the image is looked up by them. */
export function placed(uvs: Float32Array, place: Float64Array): Float32Array {
  return Float32Array.from(uvs, (_, i) => {
    const [s, t] = [uvs[i & ~1], uvs[i | 1]];
    const o = i & 1 ? 3 : 0;
    return place[o] * s + place[o + 1] * t + place[o + 2];
  });
}
