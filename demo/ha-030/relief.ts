/** The relief that is pressed into the wax, as heights from 0 to 1 over places in metres: flat is 0.5, cells go in, the rim goes out. */

const smooth = (t: number): number => {
  const s = Math.min(1, Math.max(0, t));
  return s * s * (3 - 2 * s);
};

/** Distance from the nearest wall of a honeycomb, 0 on walls and 1 in the middles of cells. @param across metres from wall to wall */
export function inCell(x: number, y: number, across: number): number {
  const [w, h] = [across, across * Math.sqrt(3)];
  let best = Infinity;
  // Two grids of rectangles make a honeycomb: the nearer centre is the cell's.
  for (const [ox, oy] of [[0, 0], [w / 2, h / 2]]) {
    const [dx, dy] = [x - ox - w * Math.round((x - ox) / w), y - oy - h * Math.round((y - oy) / h)];
    const far = Math.max(Math.abs(dx), Math.abs(dx) / 2 + (Math.abs(dy) * Math.sqrt(3)) / 2);
    best = Math.min(best, far);
  }
  return 1 - best / (across / 2);
} // prettier-ignore

/** Cells with soft floors: 0 flat, 1 at the floor. */
export const cell = (x: number, y: number, across: number): number => smooth((inCell(x, y, across) - 0.16) / 0.5);

/** The slab from above, from its middle: cells in the middle, a raised frame around, flat to the edges. */
export function slabHeight(x: number, z: number, width: number, depth: number): number {
  const edge = Math.min(width / 2 - Math.abs(x), depth / 2 - Math.abs(z));
  const inside = smooth((edge - 0.048) / 0.012);
  const frame = smooth((edge - 0.022) / 0.006) * smooth((0.042 - edge) / 0.006);
  return 0.5 - 0.5 * inside * cell(x, z, 0.036) + 0.5 * frame;
}

/** A seal: a ring and a star of six rays, raised from black. */
export function sealHeight(u: number, v: number): number {
  const [x, y] = [2 * u - 1, 2 * v - 1];
  const [r, angle] = [Math.hypot(x, y), Math.atan2(y, x)];
  const ring = smooth((r - 0.62) / 0.05) * smooth((0.8 - r) / 0.05);
  const ray = smooth((Math.cos(6 * angle) - 0.35) / 0.4) * smooth((0.5 - r) / 0.08);
  return Math.min(1, ring + ray);
}
