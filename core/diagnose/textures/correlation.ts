/** Pearson’s correlation of two lists, −1 to 1; 0 where one of them is the same all over, or empty. */
export function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const n = a.length;
  let [meanA, meanB] = [0, 0];
  for (let i = 0; i < n; i++) {
    meanA += a[i] / n;
    meanB += b[i] / n;
  }
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    ab += (a[i] - meanA) * (b[i] - meanB);
    aa += (a[i] - meanA) ** 2;
    bb += (b[i] - meanB) ** 2;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}
