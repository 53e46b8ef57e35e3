/**
 * The knee of a curve: the point furthest from the straight line between its ends, on the side where it bends out early.
 * Source: Satopää et al., "Finding a Kneedle in a Haystack", 2011.
 *
 * @param points x ascending; y all rising or all falling
 * @returns the number of the point; 0 where the curve does not bend so
 */
export function kneeOf(points: [number, number][]): number {
  const [[x0, y0], [x1, y1]] = [points[0], points.at(-1)!];
  let [best, knee] = [0, 0];
  points.forEach(([x, y], k) => {
    const early = (y - y0) / (y1 - y0 || 1) - (x - x0) / (x1 - x0 || 1);
    if (early > best) [best, knee] = [early, k];
  });
  return knee;
}
