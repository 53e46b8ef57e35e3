/**
 * Pixel filters by importance sampling: a sample belongs to one pixel and its place is drawn from the
 * filter. Source: Ernst, Stamminger & Greiner, "Filter Importance Sampling", 2006.
 */
import type { FilterKind } from '../document/schema.ts';

/** Offset from the pixel's centre, pixels, for one uniform number and a full filter width. */
export type FilterSampler = (u: number, width: number) => number;

const box: FilterSampler = (u, width) => (u - 0.5) * width;

const triangle: FilterSampler = (u, width) => 0.5 * width * (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u));

/** A Gaussian whose standard deviation is a fifth of its width, cut off at the width's ends. */
const gaussian: FilterSampler = (u, width) => {
  const cut = 0.0062096653257761; // Φ(−2.5)
  return 0.2 * width * inverseNormal(cut + u * (1 - 2 * cut));
};

export const filterSamplers: Record<FilterKind, FilterSampler> = { box, triangle, gaussian };

/**
 * Inverse of the normal distribution function, relative error below 1.2e-9.
 * Source: Acklam, "An algorithm for computing the inverse normal cumulative distribution function", 2003.
 */
function inverseNormal(p: number): number {
  if (p < 0.02425) return tail(Math.sqrt(-2 * Math.log(p)));
  if (p > 1 - 0.02425) return -tail(Math.sqrt(-2 * Math.log(1 - p)));
  const q = p - 0.5;
  const r = q * q;
  return (
    ((((((-39.69683028665376 * r + 220.9460984245205) * r - 275.9285104469687) * r + 138.357751867269) * r -
      30.66479806614716) *
      r +
      2.506628277459239) *
      q) /
    (((((-54.47609879822406 * r + 161.5858368580409) * r - 155.6989798598866) * r + 66.80131188771972) * r -
      13.28068155288572) *
      r +
      1)
  );
}

function tail(q: number): number {
  return (
    (((((-0.007784894002430293 * q - 0.3223964580411365) * q - 2.400758277161838) * q - 2.549732539343734) * q +
      4.374664141464968) *
      q +
      2.938163982698783) /
    ((((0.007784695709041462 * q + 0.3224671290700398) * q + 2.445134137142996) * q + 3.754408661907416) * q + 1)
  );
}
