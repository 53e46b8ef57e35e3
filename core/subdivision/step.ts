/**
 * One step of Catmull–Clark subdivision for values of any width: positions by three, UVs by two.
 *
 * Source: Catmull & Clark, "Recursively generated B-spline surfaces on arbitrary topological meshes", 1978; creases and
 * corners of any sharpness by DeRose, Kass & Truong, "Subdivision surfaces in character animation", 1998, with the weight
 * between two rules as the mean of what is used up at the point.
 */
import { sharpnessOf, worn, type Net } from './net.ts';

/** What holds at a point: nothing, the line of two sharp edges, or its place. */
export const SMOOTH = 0;
export const CREASE = 1;
export const CORNER = 2;

/** Sums about the points of a net, and what is sharp there. */
export interface About {
  edges: Uint32Array;
  faces: Uint32Array;
  /** Sharp edges at this level, and those that are still sharp at the next. */
  sharp: Uint32Array;
  sharpNext: Uint32Array;
  /** Points at the other ends of two sharp edges, and of two that stay sharp. */
  along: Int32Array;
  alongNext: Int32Array;
  /** Of what gets smooth here: its sharpness summed, and how many there are. */
  used: Float32Array;
  usedCount: Uint32Array;
}

export function aboutPoints(net: Net): About {
  const { points, corners, ends, edgeFaces, pointSharpness } = net;
  const about: About = {
    edges: new Uint32Array(points),
    faces: new Uint32Array(points),
    sharp: new Uint32Array(points),
    sharpNext: new Uint32Array(points),
    along: new Int32Array(2 * points).fill(-1),
    alongNext: new Int32Array(2 * points).fill(-1),
    used: new Float32Array(points),
    usedCount: new Uint32Array(points),
  };
  for (const point of corners) about.faces[point] += 1;
  for (let e = 0; e < edgeFaces.length; e++) {
    const sharpness = sharpnessOf(net, e);
    const next = worn(sharpness);
    for (let side = 0; side < 2; side++) {
      const point = ends[2 * e + side];
      const other = ends[2 * e + 1 - side];
      about.edges[point] += 1;
      if (sharpness === 0) continue;
      if (about.sharp[point] < 2) about.along[2 * point + about.sharp[point]] = other;
      about.sharp[point] += 1;
      if (next > 0) {
        if (about.sharpNext[point] < 2) about.alongNext[2 * point + about.sharpNext[point]] = other;
        about.sharpNext[point] += 1;
      } else {
        about.used[point] += sharpness;
        about.usedCount[point] += 1;
      }
    }
  }
  for (let p = 0; p < points; p++)
    if (pointSharpness[p] > 0 && worn(pointSharpness[p]) === 0) {
      about.used[p] += pointSharpness[p];
      about.usedCount[p] += 1;
    }
  return about;
}

/** @returns SMOOTH, CREASE or CORNER. Where a sharp edge ends by itself (a dart) the point is smooth */
export const ruleBy = (sharpEdges: number, sharpness: number): number =>
  sharpness > 0 || sharpEdges > 2 ? CORNER : sharpEdges === 2 ? CREASE : SMOOTH;

/**
 * Values of the net one level on, in the order of `nextNet`.
 * @param values `width` numbers a point
 * @param isLinear nothing is smoothed: points stay, edges are halved
 */
export function nextValues(
  net: Net,
  about: About,
  values: Float64Array,
  width: number,
  isLinear = false,
): Float64Array {
  const { points, faceSizes, corners, edgeOf, ends, edgeFaces, pointSharpness } = net;
  const edges = edgeFaces.length;
  const out = new Float64Array((points + edges + faceSizes.length) * width);
  const ofEdges = points * width;
  const ofFaces = (points + edges) * width;
  for (let f = 0, start = 0; f < faceSizes.length; start += faceSizes[f++])
    for (let a = 0; a < width; a++) {
      let sum = 0;
      for (let k = 0; k < faceSizes[f]; k++) sum += values[corners[start + k] * width + a];
      out[ofFaces + f * width + a] = sum / faceSizes[f];
    }
  /** Sums of the middles of the faces at each edge, and at each point. */
  const byEdge = new Float64Array(edges * width);
  const byPoint = new Float64Array(points * width);
  if (!isLinear)
    for (let f = 0, c = 0; f < faceSizes.length; f++)
      for (let k = 0; k < faceSizes[f]; k++, c++)
        for (let a = 0; a < width; a++) {
          const middle = out[ofFaces + f * width + a];
          byEdge[edgeOf[c] * width + a] += middle;
          byPoint[corners[c] * width + a] += middle;
        }
  /** Sums of the points at the other ends of each point's edges. */
  const across = new Float64Array(points * width);
  for (let e = 0; e < edges; e++) {
    const p = ends[2 * e];
    const q = ends[2 * e + 1];
    const held = isLinear ? 1 : Math.min(1, sharpnessOf(net, e));
    for (let a = 0; a < width; a++) {
      const from = values[p * width + a];
      const to = values[q * width + a];
      across[p * width + a] += to;
      across[q * width + a] += from;
      const half = (from + to) / 2;
      out[ofEdges + e * width + a] =
        held === 1 ? half : held * half + (1 - held) * ((from + to + byEdge[e * width + a]) / 4);
    }
  }
  for (let p = 0; p < points; p++) {
    const now = isLinear || about.edges[p] === 0 ? CORNER : ruleBy(about.sharp[p], pointSharpness[p]);
    const next = isLinear || about.edges[p] === 0 ? CORNER : ruleBy(about.sharpNext[p], worn(pointSharpness[p]));
    // Between two levels of different rules both count, by how much of what was sharp is used up.
    const held = now === next ? 1 : Math.min(1, about.used[p] / (about.usedCount[p] || 1));
    const stay = Number(now === CORNER) * held + Number(next === CORNER) * (1 - held);
    const smooth = Number(now === SMOOTH) * held + Number(next === SMOOTH) * (1 - held);
    const crease = Number(now === CREASE) * held;
    const creaseNext = Number(next === CREASE) * (1 - held);
    const n = about.edges[p];
    const { along, alongNext } = about;
    for (let a = 0; a < width; a++) {
      const at = values[p * width + a];
      let sum = stay * at;
      if (smooth > 0) sum += smooth * ((at * (n - 2)) / n + (across[p * width + a] + byPoint[p * width + a]) / (n * n));
      if (crease > 0) sum += (crease * (6 * at + values[along[2 * p] * width + a] + values[along[2 * p + 1] * width + a])) / 8; // prettier-ignore
      if (creaseNext > 0) sum += (creaseNext * (6 * at + values[alongNext[2 * p] * width + a] + values[alongNext[2 * p + 1] * width + a])) / 8; // prettier-ignore
      out[p * width + a] = sum;
    }
  }
  return out;
}
