/**
 * How many texels of an image lie from a pixel to the next, where it is worn by the first UVs: more than one is finer than pixels.
 *
 * Source of texels against pixels: Heckbert, "Fundamentals of Texture Mapping and Image Warping", 1989.
 */
import { channel, type Picture } from '../data/picture.ts';
import type { Texture } from '../data/texture.ts';
import type { MapSpec } from '../document/schema.ts';

/** Passes that a picture must have. */
export const STEP_PASSES = ['uv', 'object', 'object.coverage'];
/** Steps in UV beyond which neighbouring pixels are not neighbours on the surface: another side of it, or a seam. */
const SEAM = 0.25;
/** Share of a pixel that an object fills: others have the UVs of two. */
const WHOLE = 0.98;

export interface TexelStep {
  /** Full-frame number; the step goes to the pixel on its right. */
  pixel: number;
  texels: number;
}

/**
 * @param pixels full-frame numbers of what wears the map
 * @returns steps between neighbours that one object fills; none where the map looks at other UVs
 */
export function texelSteps(
  picture: Picture,
  spec: Pick<Extract<MapSpec, { kind: 'image' }>, 'uvSet' | 'scale'>,
  image: Pick<Texture, 'width' | 'height' | 'tiles'>,
  pixels: Iterable<number>,
): TexelStep[] {
  if (spec.uvSet !== 0) return [];
  const [u, v, objects, coverage] = ['uv.U', 'uv.V', 'object', 'object.coverage'].map((name) => channel(picture, name));
  // Of several tiles each is one wide and high in UV space.
  const { columns, rows } = image.tiles ?? { columns: 1, rows: 1 };
  const [width, height] = [(spec.scale[0] * image.width) / columns, (spec.scale[1] * image.height) / rows];
  const steps: TexelStep[] = [];
  for (const i of pixels) {
    if ((i + 1) % picture.width === 0 || objects[i + 1] !== objects[i]) continue;
    if (coverage[i] < WHOLE || coverage[i + 1] < WHOLE) continue;
    const [du, dv] = [u[i + 1] - u[i], v[i + 1] - v[i]];
    if (Math.abs(du) + Math.abs(dv) > SEAM) continue;
    const texels = Math.hypot(du * width, dv * height);
    if (texels > 0) steps.push({ pixel: i, texels });
  }
  return steps;
}
