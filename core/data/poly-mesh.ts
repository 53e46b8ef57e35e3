/**
 * A mesh as files tell it: faces of any number of corners, UVs and normals of their own for every corner,
 * creases. The renderer traces the triangles made from it; shape is examined on the polygons.
 *
 * @example
 * const quad: PolyMesh = { ...emptyPolyMesh(), points: new Float32Array([0,0,0, 1,0,0, 1,1,0, 0,1,0]),
 *   faceSizes: new Uint32Array([4]), corners: new Uint32Array([0, 1, 2, 3]) };
 * const mesh = trianglesOf(quad);
 */
import earcut from 'earcut';
import type { BoundaryRule, UvRule } from './subdivision-rules.ts';
import type { Mesh, PolygonData } from './mesh.ts';

/** Values that corners refer to. */
export interface CornerLayer {
  /** As the file calls it. */
  name: string;
  /** 2 or 3 numbers a value. */
  values: Float32Array;
  /** Number of the value at each corner of the mesh. */
  indices: Uint32Array;
}

export interface PolyMesh {
  /** 3 numbers a point. */
  points: Float32Array;
  /** Corners of each face. */
  faceSizes: Uint32Array;
  /** Point of each corner, face after face, counter-clockwise seen from the front. */
  corners: Uint32Array;
  normals: CornerLayer | null;
  /** The sets of UVs in the file's order; V from the bottom. */
  uvs: CornerLayer[];
  subdivision: PolygonData['subdivision'];
  /** What its file says of where the surface and its UVs end; left out: nothing. */
  ends?: { boundary: BoundaryRule; uvs: UvRule };
  /** 2 points an edge; sharpness as OpenSubdiv has it, 10 and more being infinitely sharp. */
  creases: { edges: Uint32Array; sharpness: Float32Array };
  /** Points that are sharp by themselves, as creases are; left out: none. */
  sharpPoints?: { points: Uint32Array; sharpness: Float32Array };
}

export const emptyPolyMesh = (): PolyMesh => ({
  points: new Float32Array(0),
  faceSizes: new Uint32Array(0),
  corners: new Uint32Array(0),
  normals: null,
  uvs: [],
  subdivision: 'none',
  creases: { edges: new Uint32Array(0), sharpness: new Float32Array(0) },
});

/** A triangle mesh as polygons: what separate vertices share a place share a point. */
export function polygonsOf({ positions, normals, uvs, uvs2, indices }: Mesh): PolyMesh {
  const { points, pointOf } = weld(positions);
  const layer = (name: string, values: Float32Array): CornerLayer => ({ name, values, indices: indices.slice() });
  const sets = [uvs, uvs2].filter((set): set is Float32Array => !!set);
  return {
    ...emptyPolyMesh(),
    points,
    faceSizes: new Uint32Array(indices.length / 3).fill(3),
    corners: indices.map((vertex) => pointOf[vertex]),
    normals: normals && layer('normals', normals),
    uvs: sets.map((set, i) => layer(`TEXCOORD_${i}`, set)),
  };
}

/** Vertices of exactly the same place as one point each. */
export function weld(positions: Float32Array): { points: Float32Array; pointOf: Uint32Array } {
  const vertices = positions.length / 3;
  const bits = new Uint32Array(positions.buffer, positions.byteOffset, positions.length);
  const seen = new NumberMap(vertices, 3);
  const pointOf = new Uint32Array(vertices);
  const points = new Float32Array(positions.length);
  for (let v = 0; v < vertices; v++) {
    // Zero has two signs.
    const key = (a: number) => (positions[v * 3 + a] === 0 ? 0 : bits[v * 3 + a]);
    const before = seen.size;
    const point = seen.add(key(0), key(1), key(2));
    if (point === before) for (let a = 0; a < 3; a++) points[point * 3 + a] = positions[v * 3 + a];
    pointOf[v] = point;
  }
  return { points: points.slice(0, seen.size * 3), pointOf };
}

/**
 * Triangles of the faces, or of some of them. Corners become one vertex where point, normal and UVs are the same.
 * Faces of more than three corners are cut along the ears of their outline, so that hollow ones come out right.
 */
export function trianglesOf(
  poly: PolyMesh,
  faces: Uint32Array | null = null,
): Mesh & {
  /** Point of each vertex. */
  pointOf: Uint32Array;
} {
  const starts = faceStarts(poly);
  const count = faces ? faces.length : poly.faceSizes.length;
  const [first, second] = poly.uvs;
  // Some faces of a large mesh have few vertices; the map grows where they have more.
  const vertices = new NumberMap(Math.min(poly.points.length / 3, count), 4);
  let [corners, triangles] = [0, 0];
  for (let k = 0; k < count; k++) {
    const size = poly.faceSizes[faces ? faces[k] : k];
    if (size < 3) continue;
    corners += size;
    triangles += size - 2;
  }
  const cornerOfVertex = new Uint32Array(corners);
  const indices = new Uint32Array(3 * triangles);
  let at = 0;
  const [normalOf, firstOf, secondOf] = [poly.normals?.indices, first?.indices, second?.indices];
  const put = (corner: number): void => {
    const before = vertices.size;
    const vertex = vertices.add(poly.corners[corner], normalOf ? normalOf[corner] : 0, firstOf ? firstOf[corner] : 0, secondOf ? secondOf[corner] : 0); // prettier-ignore
    if (vertex === before) cornerOfVertex[vertex] = corner;
    indices[at++] = vertex;
  };
  for (let k = 0; k < count; k++) {
    const face = faces ? faces[k] : k;
    const size = poly.faceSizes[face];
    const start = starts[face];
    if (size < 3) continue;
    if (size === 3) for (let c = 0; c < 3; c++) put(start + c);
    else if (size === 4 && isConvexQuad(poly, start)) for (let c = 0; c < 6; c++) put(start + QUAD[c]);
    else for (const corner of cutFace(poly, start, size)) put(start + corner);
  }
  const made = cornerOfVertex.subarray(0, vertices.size);
  const pick = (values: Float32Array, size: number, numberOf: Uint32Array) => {
    const out = new Float32Array(made.length * size);
    for (let v = 0; v < made.length; v++) {
      const from = numberOf[made[v]] * size;
      for (let a = 0; a < size; a++) out[v * size + a] = values[from + a];
    }
    return out;
  };
  const layer = (of: CornerLayer | null | undefined, size: number) => (of ? pick(of.values, size, of.indices) : null);
  return {
    positions: pick(poly.points, 3, poly.corners),
    normals: layer(poly.normals, 3),
    uvs: layer(first, 2),
    uvs2: layer(second, 2),
    indices,
    pointOf: made.map((corner) => poly.corners[corner]),
  };
}

/** Corners of the two triangles of a convex quad. */
const QUAD = [0, 1, 2, 0, 2, 3];

/** Starts of faces by their sizes: a mesh of ten thousand materials asks for them as often. */
const startsOf = new WeakMap<Uint32Array, Uint32Array>();

/** Where each face's corners begin. Not to be written to. */
export function faceStarts({ faceSizes }: Pick<PolyMesh, 'faceSizes'>): Uint32Array {
  const known = startsOf.get(faceSizes);
  if (known) return known;
  const starts = new Uint32Array(faceSizes.length);
  for (let f = 1; f < faceSizes.length; f++) starts[f] = starts[f - 1] + faceSizes[f - 1];
  startsOf.set(faceSizes, starts);
  return starts;
}

/** The sum of a face's corner triangles: its normal, twice its area long. Source: Newell's method. */
export function faceNormal({ points, corners }: PolyMesh, start: number, size: number): [number, number, number] {
  let x = 0;
  let y = 0;
  let z = 0;
  for (let k = 0; k < size; k++) {
    const p = corners[start + k] * 3;
    const q = corners[start + ((k + 1) % size)] * 3;
    x += (points[p + 1] - points[q + 1]) * (points[p + 2] + points[q + 2]);
    y += (points[p + 2] - points[q + 2]) * (points[p] + points[q]);
    z += (points[p] - points[q]) * (points[p + 1] + points[q + 1]);
  }
  return [x, y, z];
}

/**
 * Corners of an outline that is cut along its ears. The search for ears grows with the square of the corners, in the worst case
 * by minutes at twenty thousand; nobody models an outline of so many, and a fan keeps every corner of one that came about.
 */
const MOST_EARS = 4096;

/** Seen along the axis that its normal is nearest to, as `cutFace` looks at it. */
function isConvexQuad({ points, corners }: PolyMesh, start: number): boolean {
  const p = 3 * corners[start];
  const q = 3 * corners[start + 1];
  const r = 3 * corners[start + 2];
  const s = 3 * corners[start + 3];
  // Of a quad Newell's sum is the cross product of its diagonals.
  const ax = points[r] - points[p];
  const ay = points[r + 1] - points[p + 1];
  const az = points[r + 2] - points[p + 2];
  const bx = points[s] - points[q];
  const by = points[s + 1] - points[q + 1];
  const bz = points[s + 2] - points[q + 2];
  const nx = Math.abs(ay * bz - az * by);
  const ny = Math.abs(az * bx - ax * bz);
  const nz = Math.abs(ax * by - ay * bx);
  const largest = ny > nx ? (nz > ny ? 2 : 1) : nz > nx ? 2 : 0;
  const u = largest === 2 ? 0 : largest + 1;
  const v = largest === 0 ? 2 : largest - 1;
  // Turned the same way at every corner, whichever way that is.
  const a = turnAt(points, u, v, p, q, r);
  const b = turnAt(points, u, v, q, r, s);
  const c = turnAt(points, u, v, r, s, p);
  const d = turnAt(points, u, v, s, p, q);
  return (a > 0 && b > 0 && c > 0 && d > 0) || (a < 0 && b < 0 && c < 0 && d < 0);
}

const turnAt = (o: Float32Array, u: number, v: number, a: number, b: number, c: number): number =>
  (o[b + u] - o[a + u]) * (o[c + v] - o[a + v]) - (o[b + v] - o[a + v]) * (o[c + u] - o[a + u]);

/** Corner numbers within a face, three a triangle. */
function cutFace(poly: PolyMesh, start: number, size: number): number[] {
  const fan = () => Array.from({ length: size - 2 }, (_, k) => [0, k + 1, k + 2]).flat();
  if (size > MOST_EARS) return fan();
  const normal = faceNormal(poly, start, size);
  const largest = [0, 1, 2].reduce((a, b) => (Math.abs(normal[b]) > Math.abs(normal[a]) ? b : a));
  const [u, v] = normal[largest] < 0 ? [(largest + 2) % 3, (largest + 1) % 3] : [(largest + 1) % 3, (largest + 2) % 3];
  const outline: number[] = [];
  for (let k = 0; k < size; k++) {
    const p = poly.corners[start + k] * 3;
    outline.push(poly.points[p + u], poly.points[p + v]);
  }
  const cut = earcut(outline);
  // A face without area has no ears; it keeps its triangles, so that nothing vanishes unseen.
  if (cut.length !== (size - 2) * 3) return fan();
  // Earcut turns as it likes; ours turn as the face does.
  return cut.flatMap((_, i) => (i % 3 ? [] : facing(outline, cut[i], cut[i + 1], cut[i + 2])));
}

const turn = (o: number[], a: number, b: number, c: number): number =>
  (o[b * 2] - o[a * 2]) * (o[c * 2 + 1] - o[a * 2 + 1]) - (o[b * 2 + 1] - o[a * 2 + 1]) * (o[c * 2] - o[a * 2]);
const facing = (o: number[], a: number, b: number, c: number): number[] =>
  turn(o, a, b, c) < 0 ? [a, c, b] : [a, b, c];

/**
 * Normals that are the same wherever faces of one smoothing group meet in a point, weighed by their areas.
 * @param groupOf smoothing group of each face; 0: flat
 */
export function smoothNormals(poly: PolyMesh, groupOf: Uint32Array): CornerLayer {
  const starts = faceStarts(poly);
  const keys = new NumberMap(poly.points.length / 3, 2);
  const indices = new Uint32Array(poly.corners.length);
  const sums: number[] = [];
  for (let f = 0; f < poly.faceSizes.length; f++) {
    const size = poly.faceSizes[f];
    const normal = faceNormal(poly, starts[f], size);
    for (let k = 0; k < size; k++) {
      const corner = starts[f] + k;
      // A flat face's own number stands for its group, above all real ones.
      const i = keys.add(poly.corners[corner], groupOf[f] === 0 ? 0x80000000 + f : groupOf[f]);
      indices[corner] = i;
      for (let a = 0; a < 3; a++) sums[i * 3 + a] = (sums[i * 3 + a] ?? 0) + normal[a];
    }
  }
  const values = new Float32Array(sums.length);
  for (let i = 0; i < sums.length; i += 3) {
    const length = Math.hypot(sums[i], sums[i + 1], sums[i + 2]) || 1;
    for (let a = 0; a < 3; a++) values[i + a] = sums[i + a] / length;
  }
  return { name: 'computed', values, indices };
}

/** Numbers 0, 1, 2 … for different short runs of 32-bit integers, in the order in which they come. */
export class NumberMap {
  size = 0;
  private keys: Uint32Array;
  private slots: Int32Array;

  /** @param expected how many there may be; it grows beyond */
  constructor(
    expected: number,
    private readonly width: number,
  ) {
    const slots = 2 ** Math.ceil(Math.log2(Math.max(16, expected * 2)));
    this.slots = new Int32Array(slots).fill(-1);
    this.keys = new Uint32Array((slots >> 1) * width);
  }

  add(a: number, b = 0, c = 0, d = 0): number {
    if (this.size * 2 >= this.slots.length) this.grow();
    const { width, slots } = this;
    let at = hash(a, b, c, d) & (slots.length - 1);
    for (;;) {
      const found = slots[at];
      if (found < 0) break;
      if (this.isKey(found, a, b, c, d)) return found;
      at = (at + 1) & (slots.length - 1);
    }
    const o = this.size * width;
    this.keys[o] = a;
    if (width > 1) this.keys[o + 1] = b;
    if (width > 2) this.keys[o + 2] = c;
    if (width > 3) this.keys[o + 3] = d;
    slots[at] = this.size;
    return this.size++;
  }

  private isKey(i: number, a: number, b: number, c: number, d: number): boolean {
    const { keys, width } = this;
    const o = i * width;
    return (
      keys[o] === a >>> 0 &&
      (width < 2 || keys[o + 1] === b >>> 0) &&
      (width < 3 || keys[o + 2] === c >>> 0) &&
      (width < 4 || keys[o + 3] === d >>> 0)
    );
  }

  private grow(): void {
    const { width } = this;
    const slots = new Int32Array(this.slots.length * 2).fill(-1);
    const keys = new Uint32Array((slots.length >> 1) * width);
    keys.set(this.keys);
    for (let i = 0; i < this.size; i++) {
      const o = i * width;
      const h = hash(keys[o], width > 1 ? keys[o + 1] : 0, width > 2 ? keys[o + 2] : 0, width > 3 ? keys[o + 3] : 0);
      let at = h & (slots.length - 1);
      while (slots[at] >= 0) at = (at + 1) & (slots.length - 1);
      slots[at] = i;
    }
    this.slots = slots;
    this.keys = keys;
  }
}

/** Mixing by multiplication; source: the finaliser of MurmurHash3 (Appleby, public domain). */
function hash(a: number, b: number, c: number, d: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b);
  h = Math.imul((h ^ (h >>> 13)) + b, 0xc2b2ae35);
  h = Math.imul((h ^ (h >>> 15)) + c, 0x85ebca6b);
  h = Math.imul((h ^ (h >>> 13)) + d, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
