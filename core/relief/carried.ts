/**
 * How much of a map's relief a mesh can carry: the share of its variance that is left where it is averaged over the length of an
 * edge. Two edges to a wave are the least that carry any of it (Nyquist; Shannon, "Communication in the Presence of Noise", 1949);
 * of a wave of λ texels means over w texels leave sinc²(w/λ) of the variance.
 *
 * @example
 * const carried = carriedBy(heights, 512, 512, covered);
 * carried(4); // 0.93: edges of four texels carry 93 % of the relief
 */

/** @returns the share by length of an edge in texels, 0–1; 1 where there is no relief */
export function carriedBy(heights: Float32Array, width: number, height: number, covered: Uint8Array): (edge: number) => number {
  let sums = Float64Array.from(heights, (value, i) => (covered[i] ? value : 0));
  let weights = Float64Array.from(covered);
  const shares: number[] = [];
  let [w, h] = [width, height];
  for (;;) {
    shares.push(variance(sums, weights));
    if (w === 1 && h === 1) break;
    const [nextW, nextH] = [Math.ceil(w / 2), Math.ceil(h / 2)];
    const [nextSums, nextWeights] = [new Float64Array(nextW * nextH), new Float64Array(nextW * nextH)];
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const to = (y >> 1) * nextW + (x >> 1);
        nextSums[to] += sums[y * w + x];
        nextWeights[to] += weights[y * w + x];
      }
    [sums, weights, w, h] = [nextSums, nextWeights, nextW, nextH];
  }
  const [whole] = shares;
  return (edge) => {
    if (whole <= 0) return 1;
    const level = Math.min(shares.length - 1, Math.max(0, Math.log2(Math.max(edge, 1e-9))));
    const [low, t] = [Math.floor(level), level % 1];
    return ((1 - t) * shares[low] + t * (shares[low + 1] ?? shares[low])) / whole;
  };
} // prettier-ignore

/** Of means, each by what it is a mean of. */
function variance(sums: Float64Array, weights: Float64Array): number {
  let [all, total] = [0, 0];
  for (let i = 0; i < sums.length; i++) {
    all += weights[i];
    total += sums[i];
  }
  if (all === 0) return 0;
  const mean = total / all;
  let sum = 0;
  for (let i = 0; i < sums.length; i++) if (weights[i] > 0) sum += weights[i] * (sums[i] / weights[i] - mean) ** 2;
  return sum / all;
}
