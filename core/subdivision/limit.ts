/**
 * Where a subdivided surface ends up, and which way it looks there: points of a net of quads, moved to the limit surface.
 *
 * Source: Halstead, Kass & DeRose, "Efficient, fair interpolation using Catmull–Clark surfaces", 1993, appendix A. At creases,
 * corners and boundaries places are those of the curve (Lane & Riesenfeld 1980) and normals those of the faces on either side.
 */
import { faceNormal, type PolyMesh } from '../data/poly-mesh.ts';
import { ENDLESS, sharpnessOf, type Net } from './net.ts';
import { aboutPoints, CORNER, CREASE, ruleBy, SMOOTH, type About } from './step.ts';

/** @param values `width` numbers a point of a net whose faces are quads. @returns the same, on the limit surface */
export function limitPlaces(net: Net, values: Float64Array, width: number): Float64Array {
  const about = aboutPoints(net);
  const out = values.slice();
  const across = new Float64Array(values.length);
  const { ends, corners } = net;
  for (let e = 0; e < net.edgeFaces.length; e++)
    for (let a = 0; a < width; a++) {
      across[width * ends[2 * e] + a] += values[width * ends[2 * e + 1] + a];
      across[width * ends[2 * e + 1] + a] += values[width * ends[2 * e] + a];
    }
  const opposite = new Float64Array(values.length);
  for (let c = 0; c < corners.length; c++) {
    const other = corners[(c & ~3) + ((c + 2) & 3)];
    for (let a = 0; a < width; a++) opposite[width * corners[c] + a] += values[width * other + a];
  }
  for (let p = 0; p < net.points; p++) {
    const rule = ruleBy(about.sharp[p], net.pointSharpness[p]);
    const n = about.edges[p];
    if (rule === CORNER || n === 0) continue;
    for (let a = 0; a < width; a++) {
      const i = width * p + a;
      out[i] = rule === CREASE
        ? (4 * values[i] + values[width * about.along[2 * p] + a] + values[width * about.along[2 * p + 1] + a]) / 6
        : (n * n * values[i] + 4 * across[i] + opposite[i]) / (n * (n + 5)); // prettier-ignore
    }
  }
  return out;
}

/**
 * Normals of a net of quads, one for each side of what is endlessly sharp: exact where the surface is smooth.
 * @param values places before they were moved to the limit
 * @param isLinear each face has its own: a surface that nothing smooths has an edge at every edge
 * @returns the normal of each corner, by number
 */
export function limitNormals(
  net: Net,
  values: Float64Array,
  places: PolyMesh,
  isLinear = false,
): { values: Float32Array; indices: Uint32Array } {
  const about = aboutPoints(net);
  const { starts, list } = cornersByPoint(net);
  const indices = new Uint32Array(net.corners.length);
  const normals: number[] = [];
  const tangents = new Float64Array(6);
  for (let p = 0; p < net.points; p++) {
    const own = list.subarray(starts[p], starts[p + 1]);
    const isSmooth = !isLinear && ruleBy(about.sharp[p], net.pointSharpness[p]) === SMOOTH && isInside(about, p);
    const ring = isSmooth ? ringOf(net, own) : null;
    if (ring) {
      tangentsOf(net, values, ring, tangents);
      for (const c of own) indices[c] = normals.length / 3;
      push(normals, cross(tangents));
      continue;
    }
    for (const side of isLinear ? Array.from(own, (c) => [c]) : sidesOf(net, own)) {
      for (const c of side) indices[c] = normals.length / 3;
      push(normals, meanNormal(places, side));
    }
  }
  return { values: Float32Array.from(normals), indices };
}

const isInside = ({ edges, faces }: About, p: number): boolean => edges[p] > 0 && edges[p] === faces[p];

function cornersByPoint({ points, corners }: Net): { starts: Uint32Array; list: Uint32Array } {
  const starts = new Uint32Array(points + 1);
  for (const point of corners) starts[point + 1] += 1;
  for (let p = 0; p < points; p++) starts[p + 1] += starts[p];
  const at = starts.slice(0, points);
  const list = new Uint32Array(corners.length);
  corners.forEach((point, c) => (list[at[point]++] = c));
  return { starts, list };
}

const nextIn = (c: number): number => (c & ~3) + ((c + 1) & 3);
const beforeIn = (c: number): number => (c & ~3) + ((c + 3) & 3);

/** Corners of a point in the order in which its faces go round, counter-clockwise; null where they are no ring. */
function ringOf({ edgeOf }: Net, own: Uint32Array): number[] | null {
  const ring = [own[0]];
  while (ring.length < own.length) {
    // The face after one shares the edge that comes in there.
    const edge = edgeOf[beforeIn(ring.at(-1)!)];
    const next = own.find((c) => edgeOf[c] === edge);
    if (next === undefined || ring.includes(next)) return null;
    ring.push(next);
  }
  return ring;
}

function tangentsOf({ corners }: Net, values: Float64Array, ring: number[], out: Float64Array): void {
  const n = ring.length;
  const turn = (2 * Math.PI) / n;
  const edge = 1 + Math.cos(turn) + Math.cos(turn / 2) * Math.sqrt(2 * (9 + Math.cos(turn)));
  out.fill(0);
  ring.forEach((c, i) => {
    const [e, f] = [corners[nextIn(c)], corners[nextIn(nextIn(c))]];
    for (let k = 0; k < 2; k++) {
      const byEdge = edge * Math.cos(turn * (i - k));
      const byFace = Math.cos(turn * (i - k)) + Math.cos(turn * (i + 1 - k));
      for (let a = 0; a < 3; a++) out[3 * k + a] += byEdge * values[3 * e + a] + byFace * values[3 * f + a];
    }
  });
}

/** Corners about a point that no endlessly sharp edge parts. */
function sidesOf(net: Net, own: Uint32Array): number[][] {
  const left = new Set(own);
  const sides: number[][] = [];
  for (const first of own) {
    if (!left.delete(first)) continue;
    const side = [first];
    for (const c of side)
      for (const edge of [net.edgeOf[c], net.edgeOf[beforeIn(c)]]) {
        if (sharpnessOf(net, edge) >= ENDLESS) continue;
        for (const other of left)
          if (net.edgeOf[other] === edge || net.edgeOf[beforeIn(other)] === edge) {
            left.delete(other);
            side.push(other);
          }
      }
    sides.push(side);
  }
  return sides;
}

function meanNormal(places: PolyMesh, side: number[]): number[] {
  const sum = [0, 0, 0];
  for (const c of side) faceNormal(places, c & ~3, 4).forEach((part, a) => (sum[a] += part));
  return sum;
}

const cross = (t: Float64Array): number[] => [
  t[1] * t[5] - t[2] * t[4],
  t[2] * t[3] - t[0] * t[5],
  t[0] * t[4] - t[1] * t[3],
];

function push(out: number[], [x, y, z]: number[]): void {
  const length = Math.hypot(x, y, z) || 1;
  out.push(x / length, y / length, z / length);
}
