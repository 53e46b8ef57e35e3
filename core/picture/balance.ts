/**
 * Light groups set against each other after the render: what a picture would be with each light brighter or darker.
 * Light adds up, so the picture is the beauty and, of each group, as much more or less as its gain says.
 *
 * @example
 * balanced(beauty, [{ plane: sun, gain: gainOf({ stops: -1, isMuted: false }) }], out);
 */
export interface GroupBalance {
  /** Stops up or down. */
  stops: number;
  isMuted: boolean;
}

/** By the layer of a light group. */
export type Balance = Record<string, GroupBalance>;

export const AS_RENDERED: GroupBalance = { stops: 0, isMuted: false };

export const gainOf = ({ stops, isMuted }: GroupBalance): number => (isMuted ? 0 : 2 ** stops);

export const isBalanced = (balance: Balance): boolean =>
  Object.values(balance).some(({ stops, isMuted }) => stops !== 0 || isMuted);

/** One channel of the picture; `out` may be a new plane, or the one before. */
export function balanced(
  beauty: ArrayLike<number>,
  groups: { plane: ArrayLike<number>; gain: number }[],
  out: Float32Array,
): Float32Array {
  for (let i = 0; i < beauty.length; i++) out[i] = beauty[i];
  for (const { plane, gain } of groups) {
    const more = gain - 1;
    if (more !== 0) for (let i = 0; i < out.length; i++) out[i] += more * plane[i];
  }
  return out;
}
