/** How many texels of an image a pixel of the picture spans, where the image is worn: more than one is finer than pixels. */
import { channel, type Region } from '../../data/picture.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import { objectIds } from '../../document/object-names.ts';
import { percentile } from '../../picture/measured.ts';
import type { RenderInput } from '../family.ts';

/** Steps in UV beyond which neighbouring pixels are not neighbours on the surface: another side of it, or a seam. */
const SEAM = 0.25;

/** @returns texels from a pixel to the next, the median over the region; null where the map is not worn there by its first UVs */
export function texelsAPixel(input: RenderInput, region: Region, map: string): number | null {
  const { document, picture, scene } = input;
  const spec = document.maps[map];
  if (spec.kind !== 'image' || spec.uvSet !== 0) return null;
  const image = scene.chains[scene.textureIds.indexOf(spec.texture)]?.[0];
  if (!image) return null;
  const isWorn = objectIds(document).map((id) => {
    const material = document.materials[document.objects[id].material];
    return MAP_SLOTS.some((slot) => material[slot] === map);
  });
  const [u, v, objects] = ['uv.U', 'uv.V', 'object'].map((name) => channel(picture, name));
  const steps: number[] = [];
  for (let y = region.y; y < region.y + region.height; y++)
    for (let x = region.x; x + 1 < region.x + region.width; x++) {
      const i = y * picture.width + x;
      if (objects[i] === 0 || objects[i + 1] !== objects[i] || !isWorn[objects[i] - 1]) continue;
      const [du, dv] = [u[i + 1] - u[i], v[i + 1] - v[i]];
      if (Math.abs(du) + Math.abs(dv) > SEAM) continue;
      steps.push(Math.hypot(du * spec.scale[0] * image.width, dv * spec.scale[1] * image.height));
    }
  return steps.length > 0 ? percentile(steps, 0.5) : null;
}
