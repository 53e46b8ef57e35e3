/**
 * A map drawn as an image over UV 0 to 1, for renderers that cannot compute it.
 * Where a map looks at the object's space, the image is its slice at Z = 0 (X and Y, or X and Z for waves, in metres).
 */
import type { Texture } from '../data/texture.ts';
import { MAP_WAVES, type CompiledMap } from './compiled-map.ts';
import { MapSampler } from './map-sampler.ts';

/** @param width height texels, 1–16384 each */
export function bakeMap(map: CompiledMap, chains: Texture[][], width: number, height: number): Texture {
  for (const size of [width, height])
    if (!Number.isInteger(size) || size < 1 || size > 16384)
      throw new RangeError(`a baked image is 1 to 16384 texels wide and high, not ${size}`);
  const sampler = new MapSampler([map], chains);
  const texels = new Float32Array(width * height * 3);
  const alpha = new Float32Array(width * height);
  sampler.footprint = 1 / Math.max(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = (x + 0.5) / width;
      const v = 1 - (y + 0.5) / height;
      sampler.uv.set([u, v, u, v]);
      sampler.object.set(map.kind === MAP_WAVES ? [u, 0, v] : [u, v, 0]);
      sampler.lookUp(0);
      texels.set(sampler.out.subarray(0, 3), (y * width + x) * 3);
      alpha[y * width + x] = sampler.out[3];
    }
  return { width, height, texels, alpha: alpha.every((a) => a === 1) ? null : alpha };
}
