/**
 * What chance has not met yet, by how often it met what it did: I. J. Good, The Population Frequencies of Species and the
 * Estimation of Population Parameters, Biometrika 40 (1953). The species here are places of a picture, the individuals single
 * bright samples: where most places were met once, most of that light falls where the picture has none of it, and a picture
 * in which it is aimed at is brighter there by light that was missing. Zirr, Hanika & Dachsbacher, Re-weighting Firefly Samples
 * for Improved Finite-Sample Monte Carlo Estimates, Computer Graphics Forum 37 (2018), trust a sample by its neighbours alike.
 */

/** Places across the width of a picture: a firefly’s neighbours are of its place, another shelf is not. */
const ACROSS = 60;

export interface Unmet {
  /** Share of what is met by chance that falls where nothing of it was met yet, 0–1. */
  share: number;
  /** Its standard error; W. W. Esty, A Normal Limit Law for a Nonparametric Estimator of the Coverage, Annals of Statistics 11 (1983). */
  error: number;
}

/**
 * @param counts how often each kind was met; zeros are passed over
 * @returns null where nothing was met
 *
 * @example
 * unmetShare([1, 1, 1, 3]); // half of all meetings were with kinds that were met once: { share: 0.5, … }
 */
export function unmetShare(counts: Iterable<number>): Unmet | null {
  let [all, once, twice] = [0, 0, 0];
  for (const n of counts) {
    all += n;
    once += Number(n === 1);
    twice += Number(n === 2);
  }
  if (all === 0) return null;
  const share = once / all;
  return { share, error: Math.sqrt(once * (1 - share) + 2 * twice) / all };
}

/** @param pixels numbers of pixels, row by row from 0, each met once. @param width of the picture, pixels */
export function unmetIn(pixels: number[], width: number): Unmet | null {
  const size = Math.max(1, Math.round(width / ACROSS));
  const places = new Map<number, number>();
  for (const i of pixels) {
    const place = Math.floor((i % width) / size) + ACROSS * 2 * Math.floor(Math.floor(i / width) / size);
    places.set(place, (places.get(place) ?? 0) + 1);
  }
  return unmetShare(places.values());
}
