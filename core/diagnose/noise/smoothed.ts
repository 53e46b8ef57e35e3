/**
 * Luminances and variances of pixels as means over those around them that may be the same but for their noise. A pixel's own mean and
 * error are too noisy to be put through the display's curve; a mean over an edge, a thin highlight or the path of what moves is
 * neither side's.
 */

/** Squares of 5 × 5 pixels. */
const RADIUS = 2;
/** Standard errors of their difference by which two pixels may be apart: 97 % of those that are the same, at four groups (Student’s t, 3 degrees). */
const ALIKE = 4;

export interface Smoothed {
  y: Float64Array;
  variance: Float64Array;
}

/**
 * @param y luminances, row by row. @param sigma their standard errors
 * @param counts 1 for pixels whose errors count, else 0
 */
export function smoothed(
  y: ArrayLike<number>,
  sigma: ArrayLike<number>,
  counts: ArrayLike<number>,
  width: number,
  height: number,
): Smoothed {
  const out = { y: new Float64Array(width * height), variance: new Float64Array(width * height) };
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const i = py * width + px;
      let [light, pixels, variance, counted] = [0, 0, 0, 0];
      // Where none of them counts that is alike, all that count do.
      let [variances, all] = [0, 0];
      for (let ny = Math.max(0, py - RADIUS); ny <= Math.min(height - 1, py + RADIUS); ny++)
        for (let nx = Math.max(0, px - RADIUS); nx <= Math.min(width - 1, px + RADIUS); nx++) {
          const k = ny * width + nx;
          variances += counts[k] * sigma[k] ** 2;
          all += counts[k];
          if ((y[k] - y[i]) ** 2 > ALIKE ** 2 * (sigma[k] ** 2 + sigma[i] ** 2)) continue;
          light += y[k];
          pixels += 1;
          variance += counts[k] * sigma[k] ** 2;
          counted += counts[k];
        }
      out.y[i] = light / pixels;
      out.variance[i] = counted > 0 ? variance / counted : all > 0 ? variances / all : 0;
    }
  return out;
}
