import { luminance } from '../../data/colour.ts';
import type { Texture } from '../../data/texture.ts';

/** Mean difference of neighbouring texels over the contrast of the image (its standard deviation), 0–2; 0 where all is one grey. */
export function imageDetail({ width, height, texels }: Texture): number {
  const grey = Float32Array.from({ length: width * height }, (_, i) => luminance(texels[3 * i], texels[3 * i + 1], texels[3 * i + 2])); // prettier-ignore
  const mean = grey.reduce((sum, value) => sum + value, 0) / grey.length;
  const contrast = Math.sqrt(grey.reduce((sum, value) => sum + (value - mean) ** 2, 0) / grey.length);
  if (contrast < 1e-4) return 0;
  let [sum, count] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      sum += Math.abs(grey[y * width + x] - grey[y * width + x + 1]);
      count += 1;
    }
  return sum / count / contrast;
}
