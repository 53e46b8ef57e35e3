/**
 * Meshes that a map moves: along their normals, white by the scale and the rest level not at all; or by vectors. What is one
 * point of the mesh stays one wherever both sides of a UV seam have the same value; where they differ, or normals are split, it
 * opens, as in the input.
 *
 * Vectors by the surface count along U, V and the normal, as the displacement node of MaterialX 1.38 has them (from memory); V is
 * square to U, on the side to which it grows.
 *
 * @example
 * const relief = reliefsOf(document, assets).get('wax');
 * const comb = relief ? displaced(mesh, relief) : mesh;
 */
import type { Mesh } from '../../data/mesh.ts';
import { NumberMap, weld } from '../../data/poly-mesh.ts';
import type { Texture } from '../../data/texture.ts';
import type { DisplacementKind, MapSpec, ShotDocument } from '../../document/schema.ts';
import type { KeptParts } from '../../geometry/kept-parts.ts';
import { compileMap, type CompiledMap } from '../../textures/compiled-map.ts';
import { mipChain } from '../../textures/image.ts';
import { MapSampler } from '../../textures/map-sampler.ts';
import { readAs } from '../../textures/read-as.ts';
import { mapOf, type Assets } from './assets.ts';

export interface Relief {
  /** Tells reliefs of one texture apart. */
  key: string;
  texture: Texture | null;
  /** The image with its halved copies, as heights. */
  chain: Texture[] | null;
  map: MapSpec;
  compiled: CompiledMap;
  sampler: MapSampler;
  /** Set of UVs that the map reads; −1: it looks at the object's space. */
  uvSet: number;
  kind: DisplacementKind;
  /** Normals stay those of the mesh as it was: all slopes of the map shade as a bump, those that the mesh has and those it has not. */
  detail: boolean;
  /** Metres for the whole range of the map. */
  scale: number;
  rest: number;
  /** Metres that nothing is moved beyond. */
  bound: number;
}

/** @returns null for a material without displacement */
function reliefOf(document: ShotDocument, assets: Assets, material: string, kept?: KeptParts): Relief | null {
  const { displacementMap, displacementKind: kind, displacementDetail, displacementScale: scale, displacementRest: rest, displacementBound: bound } = document.materials[material]; // prettier-ignore
  if (displacementMap === null || scale === 0) return null;
  const spec = mapOf(document, assets, displacementMap);
  const texture = spec.kind === 'image' ? (assets.textures.get(spec.texture) ?? null) : null;
  const colourSpace = spec.kind === 'image' ? (document.textures[spec.texture]?.colourSpace ?? texture?.colourSpace) : undefined; // prettier-ignore
  const make = () => texture && heights(colourSpace ? readAs(texture, colourSpace) : texture);
  const chain = texture && kept ? kept.of(texture, `heights ${colourSpace ?? ''}`, make) : make();
  const compiled = compileMap(spec, spec.kind === 'image' ? [spec.texture] : [], texture ?? undefined);
  const uvSet = spec.kind === 'noise-object' || spec.kind === 'waves' ? -1 : spec.uvSet;
  const detail = displacementDetail && kind === 'height' && isPlacedByUvs(spec);
  return {
    key: JSON.stringify([spec, kind, detail, scale, rest, bound]),
    texture,
    chain,
    map: spec,
    compiled,
    sampler: new MapSampler([compiled], chain ? [chain] : []),
    uvSet,
    kind,
    detail,
    scale,
    rest,
    bound: bound ?? Infinity,
  };
}

/** Whether a map is looked up by UVs alone: one in the object’s space would be met where the surface went, not where it was. */
export const isPlacedByUvs = (map: MapSpec): boolean =>
  map.kind === 'image' || map.kind === 'checker' || map.kind === 'noise-uv' || (map.kind === 'gradient' && !['x', 'y', 'z'].includes(map.axis)); // prettier-ignore

/** By material. */
export const reliefsOf = (document: ShotDocument, assets: Assets, kept?: KeptParts): Map<string, Relief> =>
  new Map(
    Object.keys(document.materials).flatMap((id) => {
      const relief = reliefOf(document, assets, id, kept);
      return relief ? [[id, relief] as const] : [];
    }),
  );

/** Heights may be negative, unlike light; what is no number lies at 0. */
function heights(texture: Texture): Texture[] {
  return mipChain({ ...texture, texels: texture.texels.map((value) => (Number.isFinite(value) ? value : 0)) });
}

/** Heights on both sides of a seam that differ by less than this part of the range are one: half a step of 8 bits. */
const SAME = 1 / 510;

export function displaced(mesh: Mesh, relief: Relief): Mesh {
  const { sampler, uvSet, detail } = relief;
  const { pointOf } = weld(mesh.positions);
  const normals = mesh.normals ? joinedNormals(mesh.normals, pointOf) : normalsBy(mesh.indices, mesh.positions, pointOf, null); // prettier-ignore
  const sets = [mesh.uvs, mesh.uvs2 ?? null];
  sampler.footprint = uvSet < 0 ? 0 : edgeInUvs(mesh.indices, sets[uvSet] ?? null);
  const moves = relief.kind === 'height' ? movesByHeight(mesh, relief, normals, pointOf) : movesByVector(mesh, relief, normals, pointOf); // prettier-ignore
  const positions = mesh.positions.map((value, i) => value + moves[i]);
  const lit = detail ? normals : normalsBy(mesh.indices, positions, weld(positions).pointOf, normals);
  return { ...mesh, positions, normals: lit, before: mesh.positions };
}

/** Stands the sampler at a vertex. */
function standAt({ sampler }: Relief, { positions, uvs, uvs2 }: Mesh, v: number): void {
  const sets = [uvs, uvs2 ?? null];
  for (let set = 0; set < 2; set++) for (let a = 0; a < 2; a++) sampler.uv[2 * set + a] = sets[set]?.[2 * v + a] ?? 0;
  for (let a = 0; a < 3; a++) sampler.object[a] = positions[3 * v + a];
}

/** @returns 3 numbers a vertex, metres */
function movesByHeight(mesh: Mesh, relief: Relief, normals: Float32Array, pointOf: Uint32Array): Float64Array {
  const { sampler, scale, rest, bound } = relief;
  const height = new Float64Array(pointOf.length);
  for (let v = 0; v < height.length; v++) {
    standAt(relief, mesh, v);
    height[v] = Math.min(bound, Math.max(-bound, scale * (sampler.number(0) - rest)));
  }
  joinSides(height, 1, 0, pointOf, Math.abs(scale) * SAME);
  return Float64Array.from(normals, (part, i) => height[Math.floor(i / 3)] * part);
}

/** @returns as above */
function movesByVector(mesh: Mesh, relief: Relief, normals: Float32Array, pointOf: Uint32Array): Float64Array {
  const { sampler, scale, rest, bound, kind, uvSet } = relief;
  const count = pointOf.length;
  const frames = kind === 'tangent' ? tangentFrames(mesh, (uvSet === 1 ? mesh.uvs2 : mesh.uvs) ?? null, normals, pointOf) : null; // prettier-ignore
  const moves = new Float64Array(3 * count);
  for (let v = 0; v < count; v++) {
    standAt(relief, mesh, v);
    sampler.lookUp(0);
    for (let c = 0; c < 3; c++) {
      const by = scale * (sampler.out[c] - rest);
      if (frames) for (let a = 0; a < 3; a++) moves[3 * v + a] += by * frames[9 * v + 3 * c + a];
      else moves[3 * v + c] = by;
    }
    const far = Math.hypot(moves[3 * v], moves[3 * v + 1], moves[3 * v + 2]);
    if (far > bound) for (let a = 0; a < 3; a++) moves[3 * v + a] *= bound / far;
  }
  for (let a = 0; a < 3; a++) joinSides(moves, 3, a, pointOf, Math.abs(scale) * SAME);
  return moves;
}

/** Along U, square to it on V’s side, and the normal: 9 numbers a vertex, unit. Without UVs the first two are any. */
function tangentFrames({ positions, indices }: Mesh, uvs: Float32Array | null, normals: Float32Array, pointOf: Uint32Array): Float64Array {
  const count = pointOf.length;
  const along = new Float64Array(3 * count);
  const side = new Float64Array(count);
  // Corners of one point and UV share what their faces tell together.
  const groups = new NumberMap(count, 3);
  const groupOf = Uint32Array.from({ length: count }, (_, v) => groups.add(pointOf[v], uvs ? bitsOf(uvs[2 * v]) : 0, uvs ? bitsOf(uvs[2 * v + 1]) : 0));
  if (uvs)
    for (let t = 0; t < indices.length; t += 3) {
      const [p, q, r] = [indices[t], indices[t + 1], indices[t + 2]];
      const [u1, v1, u2, v2] = [uvs[2 * q] - uvs[2 * p], uvs[2 * q + 1] - uvs[2 * p + 1], uvs[2 * r] - uvs[2 * p], uvs[2 * r + 1] - uvs[2 * p + 1]];
      const area = u1 * v2 - u2 * v1;
      const sign = Math.sign(area);
      for (const k of [p, q, r]) {
        side[groupOf[k]] += area;
        for (let a = 0; a < 3; a++) along[3 * groupOf[k] + a] += sign * (v2 * (positions[3 * q + a] - positions[3 * p + a]) - v1 * (positions[3 * r + a] - positions[3 * p + a]));
      }
    }
  const out = new Float64Array(9 * count);
  for (let v = 0; v < count; v++) {
    const n = normals.subarray(3 * v, 3 * v + 3);
    const t = along.slice(3 * groupOf[v], 3 * groupOf[v] + 3);
    square(t, n);
    if (!(Math.hypot(...t) > 1e-12)) square(t.fill(0).fill(1, Math.abs(n[0]) < 0.9 ? 0 : 1, Math.abs(n[0]) < 0.9 ? 1 : 2), n);
    const l = Math.hypot(...t);
    const s = side[groupOf[v]] < 0 ? -1 : 1;
    for (let a = 0; a < 3; a++) {
      const [b, c] = [(a + 1) % 3, (a + 2) % 3];
      out[9 * v + a] = t[a] / l;
      out[9 * v + 3 + a] = (s * (n[b] * t[c] - n[c] * t[b])) / l;
      out[9 * v + 6 + a] = n[a];
    }
  }
  return out;
} // prettier-ignore

/** Takes from a vector what it has along a unit one. */
function square(t: Float64Array, n: Float32Array): void {
  const d = t[0] * n[0] + t[1] * n[1] + t[2] * n[2];
  for (let a = 0; a < 3; a++) t[a] -= d * n[a];
}

const BITS = new DataView(new ArrayBuffer(4));
function bitsOf(value: number): number {
  BITS.setFloat32(0, value);
  return BITS.getUint32(0);
}

/** Cosine of the angle, 0.8°, within which the normals of two vertices at one point are one. */
const ALIKE = 0.9999;

/** Normals that were written twice for the two sides of a seam, and differ in their last digits, are one. */
function joinedNormals(normals: Float32Array, pointOf: Uint32Array): Float32Array {
  const out = normals.slice();
  /** First vertex of each point with a normal of its own, and the next such vertex after each. */
  const first = new Int32Array(pointOf.length).fill(-1);
  const next = new Int32Array(pointOf.length).fill(-1);
  for (let v = 0; v < pointOf.length; v++) {
    let like = first[pointOf[v]];
    while (like >= 0 && dot(normals, like, v) < ALIKE) like = next[like];
    if (like >= 0) out.set(normals.subarray(3 * like, 3 * like + 3), 3 * v);
    else {
      next[v] = first[pointOf[v]];
      first[pointOf[v]] = v;
    }
  }
  return out;
}

const dot = (of: Float32Array, p: number, q: number): number => of[3 * p] * of[3 * q] + of[3 * p + 1] * of[3 * q + 1] + of[3 * p + 2] * of[3 * q + 2]; // prettier-ignore

/**
 * The two sides of a seam read their map at two places, and get the same value but for its last digits.
 * @param values number `at` of every `stride` is joined
 */
function joinSides(values: Float64Array, stride: number, at: number, pointOf: Uint32Array, within: number): void {
  const points = pointOf.reduce((most, point) => Math.max(most, point), 0) + 1;
  const least = new Float64Array(points).fill(Infinity);
  const most = new Float64Array(points).fill(-Infinity);
  pointOf.forEach((point, v) => {
    least[point] = Math.min(least[point], values[stride * v + at]);
    most[point] = Math.max(most[point], values[stride * v + at]);
  });
  pointOf.forEach((point, v) => {
    if (most[point] - least[point] <= within) values[stride * v + at] = (least[point] + most[point]) / 2;
  });
}

/** Length of a usual edge in UV units, so that a map is filtered to what the mesh can carry. */
function edgeInUvs(indices: Uint32Array, uvs: Float32Array | null): number {
  if (!uvs) return 0;
  let area = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [p, q, r] = [2 * indices[t], 2 * indices[t + 1], 2 * indices[t + 2]];
    area += Math.abs((uvs[q] - uvs[p]) * (uvs[r + 1] - uvs[p + 1]) - (uvs[r] - uvs[p]) * (uvs[q + 1] - uvs[p + 1])) / 2;
  }
  return Math.sqrt((2 * area) / Math.max(1, indices.length / 3));
}

/**
 * A normal a vertex, the mean of the triangles at its point by their areas.
 * @param before normals whose splits stay: only vertices that had one normal share one; null: all at a point do
 */
function normalsBy(
  indices: Uint32Array,
  positions: Float32Array,
  pointOf: Uint32Array,
  before: Float32Array | null,
): Float32Array {
  const count = pointOf.length;
  const bits = before && new Uint32Array(before.buffer, before.byteOffset, before.length);
  const groups = new NumberMap(count, 4);
  const groupOf = new Uint32Array(count);
  for (let v = 0; v < count; v++) groupOf[v] = bits ? groups.add(pointOf[v], bits[3 * v], bits[3 * v + 1], bits[3 * v + 2]) : groups.add(pointOf[v]); // prettier-ignore
  const sums = new Float64Array(3 * groups.size);
  for (let t = 0; t < indices.length; t += 3) {
    const [p, q, r] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
    const [ax, ay, az] = [positions[q] - positions[p], positions[q + 1] - positions[p + 1], positions[q + 2] - positions[p + 2]]; // prettier-ignore
    const [bx, by, bz] = [positions[r] - positions[p], positions[r + 1] - positions[p + 1], positions[r + 2] - positions[p + 2]]; // prettier-ignore
    const [nx, ny, nz] = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
    for (let k = 0; k < 3; k++) {
      const o = 3 * groupOf[indices[t + k]];
      sums[o] += nx;
      sums[o + 1] += ny;
      sums[o + 2] += nz;
    }
  }
  const out = new Float32Array(3 * count);
  for (let v = 0; v < count; v++) {
    const o = 3 * groupOf[v];
    const length = Math.hypot(sums[o], sums[o + 1], sums[o + 2]) || 1;
    for (let a = 0; a < 3; a++) out[3 * v + a] = sums[o + a] / length;
  }
  return out;
}
