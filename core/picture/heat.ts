/** What each object or material of a picture costs, from passes of ids and of cost: the hottest first. */
export interface Hot {
  id: number;
  pixels: number;
  /** Share of the picture's whole cost, 0–1. */
  share: number;
  /** Mean cost of its pixels. */
  mean: number;
}

/** @param ids what each pixel shows most of; 0 is nothing. @param cost of each pixel, in any unit */
export function hottest(ids: ArrayLike<number>, cost: ArrayLike<number>): Hot[] {
  const sums = new Map<number, { pixels: number; cost: number }>();
  let all = 0;
  for (let i = 0; i < ids.length; i++) {
    if (cost[i] - cost[i] !== 0) continue;
    const sum = sums.get(ids[i]) ?? { pixels: 0, cost: 0 };
    sum.pixels += 1;
    sum.cost += cost[i];
    all += cost[i];
    sums.set(ids[i], sum);
  }
  return [...sums]
    .map(([id, sum]) => ({ id, pixels: sum.pixels, share: all > 0 ? sum.cost / all : 0, mean: sum.cost / sum.pixels }))
    .sort((a, b) => b.share - a.share);
}
