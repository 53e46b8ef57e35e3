/**
 * How the faces of a mesh hang together. Euler's formula holds on it: V − E + F is 2 for a closed surface without a
 * handle, 0 with one, 1 for a disc (Euler 1758; Poincaré 1895).
 *
 * @example
 * const { openEdges, euler } = topologyOf(cube);   // none, 2
 */
import { faceNormal, faceStarts, NumberMap, type PolyMesh } from '../data/poly-mesh.ts';

export interface Topology {
  /** Points, edges and faces, without the faces that are degenerate or there twice: those are faults of their own. */
  points: number;
  edges: number;
  faces: number;
  /** V − E + F. */
  euler: number;
  /** A face of each edge that has but one. */
  openEdges: number[];
  /** A face of each edge that more than two share. */
  nonManifoldEdges: number[];
  /** A face of each edge whose two faces run along it the same way. */
  mixedEdges: number[];
  /** Faces of no area, or with a point twice. */
  degenerate: number[];
  /** Faces whose points another face has too. */
  duplicates: number[];
  /** Faces of more than four vertices. */
  ngons: number[];
  /** Six times the volume inside, in the units of the points cubed; negative inside out. Meaningless when open. */
  volume: number;
}

/** A face counts as flat to nothing below this share of its longest edge squared. */
const FLAT = 1e-10;

export function topologyOf(poly: PolyMesh): Topology {
  const { points, faceSizes, corners } = poly;
  const starts = faceStarts(poly);
  const edges = new NumberMap(corners.length >> 1, 2);
  // Of each edge: how often it is run along upwards and downwards, and a face of it.
  const up = new Uint32Array(Math.max(16, corners.length));
  const down = new Uint32Array(up.length);
  const faceOf = new Uint32Array(up.length);
  const used = new Uint8Array(points.length / 3);
  const out: Topology = {
    points: 0, edges: 0, faces: 0, euler: 0, openEdges: [], nonManifoldEdges: [], mixedEdges: [],
    degenerate: [], duplicates: duplicatesOf(poly, starts), ngons: [], volume: 0,
  }; // prettier-ignore
  const twice = new Uint8Array(faceSizes.length);
  for (const f of out.duplicates) twice[f] = 1;
  for (let f = 0; f < faceSizes.length; f++) {
    const [start, size] = [starts[f], faceSizes[f]];
    if (size > 4) out.ngons.push(f);
    const isNothing = isDegenerate(poly, start, size);
    if (isNothing) out.degenerate.push(f);
    if (isNothing || twice[f]) continue;
    out.faces += 1;
    for (let k = 0; k < size; k++) {
      const a = corners[start + k];
      const b = corners[start + (k + 1 === size ? 0 : k + 1)];
      used[a] = 1;
      const edge = a < b ? edges.add(a, b) : edges.add(b, a);
      if (a < b) up[edge] += 1;
      else down[edge] += 1;
      faceOf[edge] = f;
    }
    out.volume += volumeBelow(poly, start, size);
  }
  for (let e = 0; e < edges.size; e++) {
    const faces = up[e] + down[e];
    if (faces === 1) out.openEdges.push(faceOf[e]);
    else if (faces > 2) out.nonManifoldEdges.push(faceOf[e]);
    else if (up[e] !== down[e]) out.mixedEdges.push(faceOf[e]);
  }
  for (const one of used) out.points += one;
  out.edges = edges.size;
  out.euler = out.points - out.edges + out.faces;
  return out;
}

function isDegenerate(poly: PolyMesh, start: number, size: number): boolean {
  if (size < 3) return true;
  const { points, corners } = poly;
  let longest = 0;
  for (let k = 0; k < size; k++) {
    const p = corners[start + k];
    const q = corners[start + (k + 1 === size ? 0 : k + 1)];
    if (p === q) return true;
    let square = 0;
    for (let a = 0; a < 3; a++) square += (points[p * 3 + a] - points[q * 3 + a]) ** 2;
    longest = Math.max(longest, square);
  }
  const [x, y, z] = faceNormal(poly, start, size);
  // NaN positions have a check of their own.
  return Math.hypot(x, y, z) <= FLAT * longest;
}

/** Six times the volume between a face and the origin. */
function volumeBelow(poly: PolyMesh, start: number, size: number): number {
  const { points, corners } = poly;
  let sum = 0;
  const a = corners[start] * 3;
  for (let k = 1; k + 1 < size; k++) {
    const b = corners[start + k] * 3;
    const c = corners[start + k + 1] * 3;
    sum +=
      points[a] * (points[b + 1] * points[c + 2] - points[b + 2] * points[c + 1]) -
      points[a + 1] * (points[b] * points[c + 2] - points[b + 2] * points[c]) +
      points[a + 2] * (points[b] * points[c + 1] - points[b + 1] * points[c]);
  }
  return sum;
}

/** By sums over their points that do not depend on the order, then point by point. */
function duplicatesOf({ faceSizes, corners }: PolyMesh, starts: Uint32Array): number[] {
  const keys = new NumberMap(faceSizes.length, 3);
  const firstOf: number[] = [];
  const duplicates: number[] = [];
  const sorted = (f: number) => corners.slice(starts[f], starts[f] + faceSizes[f]).sort();
  for (let f = 0; f < faceSizes.length; f++) {
    let sum = 0;
    let mixed = 0;
    for (let k = starts[f]; k < starts[f] + faceSizes[f]; k++) {
      sum = (sum + corners[k]) >>> 0;
      const h = Math.imul(corners[k] ^ 0x9e3779b9, 0x85ebca6b);
      mixed = (mixed + Math.imul(h ^ (h >>> 15), 0xc2b2ae35)) >>> 0;
    }
    const key = keys.add(faceSizes[f], sum, mixed);
    if (key === firstOf.length) firstOf.push(f);
    else if (sorted(f).every((point, k) => point === sorted(firstOf[key])[k])) duplicates.push(f);
  }
  return duplicates;
}
