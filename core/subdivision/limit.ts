/**
 * Where a subdivided surface ends up, and which way it looks there: points of a net of quads, moved to the limit surface.
 *
 * Source: Halstead, Kass & DeRose, "Efficient, fair interpolation using Catmull–Clark surfaces", 1993, appendix A. At creases,
 * corners and boundaries places are those of the curve (Lane & Riesenfeld 1980) and normals those of the faces on either side.
 */
import { faceNormal, type PolyMesh } from '../data/poly-mesh.ts';
import { ENDLESS, sharpnessOf, type Net } from './net.ts';
import { CORNER, CREASE, ruleBy, SMOOTH, type About } from './step.ts';

/**
 * @param about the net's points, as `aboutPoints` has them
 * @param values `width` numbers a point of a net whose faces are quads
 * @returns the same, on the limit surface
 */
export function limitPlaces(net: Net, about: About, values: Float64Array, width: number): Float64Array {
  const out = values.slice();
  const across = new Float64Array(values.length);
  const { ends, corners } = net;
  for (let e = 0; e < ends.length; e += 2) {
    const p = width * ends[e];
    const q = width * ends[e + 1];
    for (let a = 0; a < width; a++) {
      across[p + a] += values[q + a];
      across[q + a] += values[p + a];
    }
  }
  const opposite = new Float64Array(values.length);
  for (let c = 0; c < corners.length; c++) {
    const own = width * corners[c];
    const other = width * corners[c ^ 2];
    for (let a = 0; a < width; a++) opposite[own + a] += values[other + a];
  }
  const { along } = about;
  for (let p = 0; p < net.points; p++) {
    const rule = ruleBy(about.sharp[p], net.pointSharpness[p]);
    const n = about.edges[p];
    if (rule === CORNER || n === 0) continue;
    const o = width * p;
    for (let a = 0; a < width; a++)
      out[o + a] = rule === CREASE
        ? (4 * values[o + a] + values[width * along[2 * p] + a] + values[width * along[2 * p + 1] + a]) / 6
        : (n * n * values[o + a] + 4 * across[o + a] + opposite[o + a]) / (n * (n + 5)); // prettier-ignore
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
  about: About,
  values: Float64Array,
  places: PolyMesh,
  isLinear = false,
): { values: Float32Array; indices: Uint32Array } {
  const { starts, list } = cornersByPoint(net);
  const indices = new Uint32Array(net.corners.length);
  const normals = new NormalList(net.points);
  const tangents = new Float64Array(6);
  const ring = new Uint32Array(net.points === 0 ? 0 : mostFaces(starts));
  for (let p = 0; p < net.points; p++) {
    const [start, end] = [starts[p], starts[p + 1]];
    const isSmooth = !isLinear && ruleBy(about.sharp[p], net.pointSharpness[p]) === SMOOTH && about.edges[p] > 0 && about.edges[p] === about.faces[p]; // prettier-ignore
    if (isSmooth && ringOf(net, list, start, end, ring)) {
      tangentsOf(net, values, ring, end - start, tangents);
      for (let k = start; k < end; k++) indices[list[k]] = normals.size;
      const t = tangents;
      normals.add(t[1] * t[5] - t[2] * t[4], t[2] * t[3] - t[0] * t[5], t[0] * t[4] - t[1] * t[3]);
      continue;
    }
    const own = list.subarray(start, end);
    for (const side of isLinear ? Array.from(own, (c) => [c]) : sidesOf(net, own)) {
      for (const c of side) indices[c] = normals.size;
      const [x, y, z] = meanNormal(places, side);
      normals.add(x, y, z);
    }
  }
  return { values: normals.all(), indices };
}

/** Unit normals, as many as there are added. */
class NormalList {
  size = 0;
  private values: Float32Array;

  constructor(room: number) {
    this.values = new Float32Array(3 * room);
  }

  add(x: number, y: number, z: number): void {
    if (3 * this.size === this.values.length) {
      const more = new Float32Array(2 * this.values.length + 3);
      more.set(this.values);
      this.values = more;
    }
    const length = Math.sqrt(x * x + y * y + z * z) || 1;
    const o = 3 * this.size++;
    this.values[o] = x / length;
    this.values[o + 1] = y / length;
    this.values[o + 2] = z / length;
  }

  all(): Float32Array {
    return this.values.slice(0, 3 * this.size);
  }
}

function cornersByPoint({ points, corners }: Net): { starts: Uint32Array; list: Uint32Array } {
  const starts = new Uint32Array(points + 1);
  for (let c = 0; c < corners.length; c++) starts[corners[c] + 1] += 1;
  for (let p = 0; p < points; p++) starts[p + 1] += starts[p];
  const at = starts.slice(0, points);
  const list = new Uint32Array(corners.length);
  for (let c = 0; c < corners.length; c++) list[at[corners[c]]++] = c;
  return { starts, list };
}

function mostFaces(starts: Uint32Array): number {
  let most = 0;
  for (let p = 1; p < starts.length; p++) most = Math.max(most, starts[p] - starts[p - 1]);
  return most;
}

const nextIn = (c: number): number => (c & ~3) | ((c + 1) & 3);
const beforeIn = (c: number): number => (c & ~3) | ((c + 3) & 3);

/**
 * Leaves the corners of a point in `ring` in the order in which its faces go round, counter-clockwise.
 * @returns whether they are one ring
 */
function ringOf({ edgeOf }: Net, list: Uint32Array, start: number, end: number, ring: Uint32Array): boolean {
  ring[0] = list[start];
  for (let size = 1; size < end - start; size++) {
    // The face after one shares the edge that comes in there.
    const edge = edgeOf[beforeIn(ring[size - 1])];
    let next = -1;
    for (let k = start; k < end && next < 0; k++) if (edgeOf[list[k]] === edge) next = list[k];
    if (next < 0) return false;
    for (let k = 0; k < size; k++) if (ring[k] === next) return false;
    ring[size] = next;
  }
  return true;
}

/** By the number of faces at a point: weights of the points across its edges and faces in the first tangent. */
const weightsOf = new Map<number, { edges: Float64Array; faces: Float64Array }>();

function weightsFor(n: number): { edges: Float64Array; faces: Float64Array } {
  const known = weightsOf.get(n);
  if (known) return known;
  const turn = (2 * Math.PI) / n;
  const edge = 1 + Math.cos(turn) + Math.cos(turn / 2) * Math.sqrt(2 * (9 + Math.cos(turn)));
  const made = {
    edges: Float64Array.from({ length: n }, (_, i) => edge * Math.cos(turn * i)),
    faces: Float64Array.from({ length: n }, (_, i) => Math.cos(turn * i) + Math.cos(turn * (i + 1))),
  };
  weightsOf.set(n, made);
  return made;
}

/** Two tangents; the second is the first one a face further round. */
function tangentsOf({ corners }: Net, values: Float64Array, ring: Uint32Array, n: number, out: Float64Array): void {
  const { edges, faces } = weightsFor(n);
  for (let k = 0; k < 2; k++) {
    let x = 0;
    let y = 0;
    let z = 0;
    for (let i = 0; i < n; i++) {
      const c = ring[i];
      const e = 3 * corners[nextIn(c)];
      const f = 3 * corners[c ^ 2];
      const w = i >= k ? i - k : n - 1;
      x += edges[w] * values[e] + faces[w] * values[f];
      y += edges[w] * values[e + 1] + faces[w] * values[f + 1];
      z += edges[w] * values[e + 2] + faces[w] * values[f + 2];
    }
    out[3 * k] = x;
    out[3 * k + 1] = y;
    out[3 * k + 2] = z;
  }
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
