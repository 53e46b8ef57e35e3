/**
 * Structural similarity of two grey pictures. Source: Wang, Bovik, Sheikh and Simoncelli, Image Quality Assessment:
 * From Error Visibility to Structural Similarity (2004): Gaussian window of 11 × 11 with σ = 1.5, K₁ = 0.01, K₂ = 0.03,
 * over the places where the whole window lies in the picture.
 *
 * @example
 * ssim(a, b, 480, 270, 255);   // 1 for equal pictures
 */
const RADIUS = 5;
const SIGMA = 1.5;
const [K1, K2] = [0.01, 0.03];

const weights = Float64Array.from({ length: 2 * RADIUS + 1 }, (_, i) =>
  Math.exp(-((i - RADIUS) ** 2) / (2 * SIGMA * SIGMA)),
);
const sum = weights.reduce((a, b) => a + b);
const WINDOW = weights.map((w) => w / sum);

/**
 * @param range difference between the least and the greatest value there can be
 * @returns the mean over all places; NaN where the picture is smaller than the window
 */
export function ssim(a: ArrayLike<number>, b: ArrayLike<number>, width: number, height: number, range: number): number {
  if (width <= 2 * RADIUS || height <= 2 * RADIUS) return NaN;
  const product = (x: ArrayLike<number>, y: ArrayLike<number>) => Float64Array.from(x, (v, i) => v * y[i]);
  const mean = (of: ArrayLike<number>) => filtered(of, width, height);
  const [ma, mb, aa, bb, ab] = [mean(a), mean(b), mean(product(a, a)), mean(product(b, b)), mean(product(a, b))];
  const [c1, c2] = [(K1 * range) ** 2, (K2 * range) ** 2];
  let total = 0;
  for (let i = 0; i < ma.length; i++) {
    const [x, y] = [ma[i], mb[i]];
    total +=
      ((2 * x * y + c1) * (2 * (ab[i] - x * y) + c2)) / ((x * x + y * y + c1) * (aa[i] - x * x + (bb[i] - y * y) + c2));
  }
  return total / ma.length;
}

/** Weighed by the window, across and then down; smaller by its radius on every side. */
function filtered(of: ArrayLike<number>, width: number, height: number): Float64Array {
  const [w, h] = [width - 2 * RADIUS, height - 2 * RADIUS];
  const rows = new Float64Array(w * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < w; x++) {
      let value = 0;
      for (let k = 0; k <= 2 * RADIUS; k++) value += WINDOW[k] * of[y * width + x + k];
      rows[y * w + x] = value;
    }
  const out = new Float64Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let value = 0;
      for (let k = 0; k <= 2 * RADIUS; k++) value += WINDOW[k] * rows[(y + k) * w + x];
      out[y * w + x] = value;
    }
  return out;
}
