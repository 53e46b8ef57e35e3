import type { Region } from '../data/picture.ts';

/** Every `stride`-th pixel of a region in both directions, as full-frame pixel numbers. */
export function pilotPixels(region: Region, frameWidth: number, stride: number): Uint32Array {
  const out: number[] = [];
  for (let y = region.y; y < region.y + region.height; y += stride)
    for (let x = region.x + ((((y - region.y) / stride) & 1) * stride) / 2; x < region.x + region.width; x += stride)
      out.push(y * frameWidth + Math.floor(x));
  return Uint32Array.from(out);
}

/**
 * How coarse a pilot must be so that its rays stay below a quarter of a trial's.
 * @param samples per pixel of the trial, of each of its two renders
 * @param groups of 4 samples in the pilot's every pixel
 * @param passes how many times the pilot traces such a pixel, lifted limits counted double
 */
export function pilotStride(samples: number, groups: number, passes: number): number {
  const share = (groups * 4 * passes) / (samples * 2);
  return Math.max(2, Math.ceil(Math.sqrt(share / 0.2)));
}
