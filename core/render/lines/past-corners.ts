/**
 * Where straight edges run on past the corner they meet in, as a draughtsman's pencil does. Edges are followed along the
 * cracks between subpixels; a corner is where they meet or turn, and each that comes to it straight goes on beyond.
 * One that ends on another that runs through (a T) is hidden behind it, and ends there.
 */
import { FINE, type Edges } from './edges.ts';

/** Ways from a corner of four subpixels along its cracks: up, right, down, left. */
const DX = [0, 1, 0, -1];
const DY = [-1, 0, 1, 0];
/** Cracks that are followed, and fewest that tell a direction: six pixels and three at most. */
const FOLLOWED = 6 * FINE;
const FEWEST = 3 * FINE;
/** Subpixels that a straight edge's points lie off it at most. */
const OFF_LINE = 0.12 * FINE;
/** Two edges run through a corner, and are no corner, where they turn by less: degrees. */
const THROUGH = -Math.cos((20 * Math.PI) / 180);

/** Pixels around a place whose edges decide what goes on past it. */
export const CORNER_REACH = 7;

interface Arm {
  /** Unit, away from the corner; and a point on the fitted line, subpixels. Null where it is too short or bent. */
  line: { dx: number; dy: number; x: number; y: number } | null;
}

/** @returns segments in subpixels: x and y from the corner, then to the end, four numbers each */
export function pastCorners(edges: Edges, pixels: number): number[] {
  const out: number[] = [];
  const { columns, rows } = edges;
  for (let j = 1; j < rows; j++)
    for (let i = 1; i < columns; i++) {
      const ways = waysFrom(edges, i, j);
      if (ways.length < 2) continue;
      const arms = ways.map((way) => follow(edges, i, j, way));
      arms.forEach(({ line }, k) => {
        if (!line) return;
        const others = arms.filter((_, m) => m !== k).map((arm) => arm.line);
        // A neighbour of the corner proper has an arm that ends in it.
        if (others.some((other) => other === null)) return;
        const isThrough = others.some((other) => dot(other!, line) < THROUGH);
        const endsOnOne = others.some((a, m) => others.slice(m + 1).some((b) => dot(a!, b!) < THROUGH));
        if (isThrough || endsOnOne) return;
        // From the place on the line that is nearest to the corner.
        const along = (i - 0.5 - line.x) * line.dx + (j - 0.5 - line.y) * line.dy;
        const [x, y] = [line.x + along * line.dx, line.y + along * line.dy];
        out.push(x, y, x - line.dx * pixels * FINE, y - line.dy * pixels * FINE);
      });
    }
  return out;
}

const dot = (a: { dx: number; dy: number }, b: { dx: number; dy: number }) => a.dx * b.dx + a.dy * b.dy;

/**
 * Corner (i, j) stands between subpixels (i − 1, j − 1) and (i, j).
 * @returns where an edge crosses between the two subpixels beside the way out of it; −1: it does not
 */
function crossing({ columns, rows, across, down }: Edges, i: number, j: number, way: number): number {
  switch (way) {
    case 0:
      return j < 1 ? -1 : across[(j - 1) * columns + i - 1];
    case 2:
      return j >= rows ? -1 : across[j * columns + i - 1];
    case 1:
      return i >= columns ? -1 : down[(j - 1) * columns + i];
    default:
      return i < 1 ? -1 : down[(j - 1) * columns + i - 1];
  }
}

const waysFrom = (edges: Edges, i: number, j: number) => [0, 1, 2, 3].filter((way) => crossing(edges, i, j, way) >= 0);

/** Follows the one edge that leaves a corner by `way`, up to where others join, and fits a line to it. */
function follow(edges: Edges, i: number, j: number, way: number): Arm {
  const { columns, rows } = edges;
  const points: number[] = [];
  while (points.length < FOLLOWED * 2) {
    const part = crossing(edges, i, j, way);
    // Centres of subpixels are whole numbers here.
    if (way === 0) points.push(i - 1 + part, j - 1);
    else if (way === 2) points.push(i - 1 + part, j);
    else if (way === 1) points.push(i, j - 1 + part);
    else points.push(i - 1, j - 1 + part);
    i += DX[way];
    j += DY[way];
    if (i < 1 || j < 1 || i >= columns || j >= rows) break;
    const back = (way + 2) % 4;
    const on = waysFrom(edges, i, j).filter((other) => other !== back);
    if (on.length !== 1) break;
    way = on[0];
  }
  return { line: points.length < FEWEST * 2 ? null : fit(points) };
}

/** The line of least squared distance (principal axis) through points; null where one lies off it. */
function fit(points: readonly number[]): Arm['line'] {
  const n = points.length / 2;
  let [mx, my] = [0, 0];
  for (let k = 0; k < n; k++) [mx, my] = [mx + points[k * 2] / n, my + points[k * 2 + 1] / n];
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    const [x, y] = [points[k * 2] - mx, points[k * 2 + 1] - my];
    [xx, xy, yy] = [xx + x * x, xy + x * y, yy + y * y];
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  let [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  // Away from where it was begun.
  if ((points[n * 2 - 2] - points[0]) * dx + (points[n * 2 - 1] - points[1]) * dy < 0) [dx, dy] = [-dx, -dy];
  for (let k = 0; k < n; k++)
    if (Math.abs((points[k * 2 + 1] - my) * dx - (points[k * 2] - mx) * dy) > OFF_LINE) return null;
  return { dx, dy, x: mx, y: my };
}
