/** Whether a change of brightness is more than chance: what few pixels may tell, and what they may not. */

/** Brightness of some pixels. */
export interface Brightness {
  n: number;
  sum: number;
  squares: number;
}

/** So many standard errors beyond which a change is one. */
const SURE = 2.5;
/** Pixels that must share in the light: where few bright ones hold it, a mean tells nothing (Kish 1965). */
export const SHARED = 40;
/** Share of all change that goes down where light is taken, and none is moved. */
const TAKEN = 0.95;
/** Share of the pixels that must have a neighbour for the steps between them to tell. */
const ENOUGH_STEPS = 0.7;
/** Pixels that must share in that. */
const FEW = 5;

export const none = (): Brightness => ({ n: 0, sum: 0, squares: 0 });

export function add(to: Brightness, value: number): void {
  to.n += 1;
  to.sum += value;
  to.squares += value * value;
}

export function sumsOf(plane: Float32Array, counts: Uint8Array | null): Brightness {
  const sums = none();
  for (let i = 0; i < plane.length; i++) if (counts === null || counts[i]) add(sums, plane[i]);
  return sums;
}

export const meanOf = ({ n, sum }: Brightness): number => sum / n;
/** Pixels that share in the light (Kish 1965). */
const sharing = ({ sum, squares }: Brightness): number => (squares > 0 ? (sum * sum) / squares : 0);

/** Differences of pixels on the same random numbers: the sum of their squares, and of those that go down. */
export interface Differences {
  squares: number;
  down: number;
  /**
   * Of neighbours in a row, half the sum of the squares by which their differences differ, and how many there are: what a change that
   * is dark here and bright there leaves of its own pattern. Von Neumann, Kent, Bellinson & Hart, The Mean Square Successive
   * Difference, Annals of Mathematical Statistics 12 (1941).
   */
  steps?: { squares: number; n: number };
}

/** Light that is taken and none moved, or a mean that changes by more than its differences spread. */
export const isSureChange = (first: Brightness, second: Brightness, by: Differences): boolean =>
  isTaken(first, second, by) || isPaired(first, second, by);

export function isTaken(first: Brightness, second: Brightness, { down, squares }: Differences): boolean {
  const change = second.sum - first.sum;
  return change < 0 && down <= -TAKEN * (change - 2 * down) && down * down >= FEW * squares;
}

/** Share of the other side's light below which it does not matter how few pixels hold one: the change is sure, if not its size. */
const LITTLE = 0.25;

/** Whether the light of one side is held by few bright pixels, so that its mean tells nothing (Kish 1965). */
export const isHeldByFew = (one: Brightness, other: Brightness): boolean =>
  one.sum > LITTLE * other.sum && sharing(one) < SHARED;

/** Light beyond that of few pixels which a film has of the same place: those have missed some of it. */
const MISSED = 1.3;

/** Whether a film of the same place, of more pixels and by other random numbers, has more light than some pixels. */
export const missesLight = (some: Brightness, film: Brightness): boolean => meanOf(film) > MISSED * meanOf(some);

/** Pixel by pixel, on the same random numbers. */
export function isPaired(first: Brightness, second: Brightness, { squares, steps }: Differences): boolean {
  const change = second.sum - first.sum;
  if (isHeldByFew(first, second) || isHeldByFew(second, first)) return false;
  const spread = Math.max(0, squares - (change * change) / first.n);
  const apart = steps && steps.n >= ENOUGH_STEPS * first.n ? (steps.squares * first.n) / steps.n : spread;
  return Math.abs(change) >= SURE * Math.sqrt(Math.min(spread, apart));
}

/** Two means, each with its own spread. */
export function isApart(first: Brightness, second: Brightness): boolean {
  const [p, q] = [sharing(first), sharing(second)];
  if (p < SHARED || q < SHARED) return false;
  return Math.abs(Math.log(meanOf(second) / meanOf(first))) >= SURE * Math.sqrt(1 / p + 1 / q);
}
