/** How many texels of an image a pixel of the picture spans, where the image is worn. */
import { channel, type Region } from '../../data/picture.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import { objectIds } from '../../document/object-names.ts';
import { percentile } from '../../picture/measured.ts';
import type { RenderInput } from '../family.ts';
import { texelSteps } from '../texel-steps.ts';

/** @returns texels from a pixel to the next, the median over the region; null where the map is not worn there by its first UVs */
export function texelsAPixel(input: RenderInput, region: Region, map: string): number | null {
  const { document, picture, assets } = input;
  const spec = document.maps[map];
  const image = spec.kind === 'image' ? assets.textures.get(spec.texture) : undefined;
  if (spec.kind !== 'image' || !image) return null;
  const isWorn = objectIds(document).map((id) => {
    const material = document.materials[document.objects[id].material];
    return MAP_SLOTS.some((slot) => material[slot] === map);
  });
  const objects = channel(picture, 'object');
  const pixels: number[] = [];
  for (let y = region.y; y < region.y + region.height; y++)
    for (let x = region.x; x + 1 < region.x + region.width; x++) {
      const i = y * picture.width + x;
      if (objects[i] > 0 && isWorn[objects[i] - 1]) pixels.push(i);
    }
  const steps = texelSteps(picture, spec, image, pixels);
  return steps.length > 0 ? percentile(steps.map(({ texels }) => texels), 0.5) : null; // prettier-ignore
}
