/**
 * A mesh that was split by material, as one again, so that it is subdivided as a whole: by itself each part would end in a
 * boundary of its own, and crack where they meet.
 *
 * @example
 * const { whole, firstFace } = joinParts([lid, rim])!;
 * const fine = subdivided(whole, { level: 2 });
 * const lidAlone = trianglesOf(fine, facesFrom(fine, firstFace[0], firstFace[1]));
 */
import { emptyPolyMesh, NumberMap, weld, type CornerLayer, type PolyMesh } from '../data/poly-mesh.ts';
import type { Subdivided } from './subdivide.ts';

export interface JoinedParts {
  whole: PolyMesh;
  /** First face of each part, and one more: the number of all. */
  firstFace: number[];
}

const NONE = new Uint32Array(0);

/** @returns null for parts that have different sets of UVs or schemes: those are no parts of one mesh */
export function joinParts(parts: readonly PolyMesh[]): JoinedParts | null {
  const [{ uvs, subdivision, ends }] = parts;
  if (parts.some((part) => part.uvs.length !== uvs.length || part.subdivision !== subdivision)) return null;
  const offsets = startsOf(parts.map(({ points }) => points.length / 3));
  const { points, pointOf } = weld(concat(Float32Array, parts.map((part) => part.points))); // prettier-ignore
  const pointsOf = (numbers: (part: PolyMesh) => Uint32Array) => concat(Uint32Array, parts.map((part, k) => numbers(part).map((point) => pointOf[offsets[k] + point]))); // prettier-ignore
  return {
    whole: {
      ...emptyPolyMesh(),
      points,
      faceSizes: concat(Uint32Array, parts.map((part) => part.faceSizes)), // prettier-ignore
      corners: pointsOf((part) => part.corners),
      uvs: uvs.map((_, set) => joinLayers(parts.map((part) => part.uvs[set]))),
      subdivision,
      ...(ends && { ends }),
      creases: {
        edges: pointsOf((part) => part.creases.edges),
        sharpness: concat(Float32Array, parts.map((part) => part.creases.sharpness)), // prettier-ignore
      },
      sharpPoints: {
        points: pointsOf((part) => part.sharpPoints?.points ?? NONE),
        sharpness: concat(Float32Array, parts.map((part) => part.sharpPoints?.sharpness ?? new Float32Array(0))), // prettier-ignore
      },
    },
    firstFace: startsOf(parts.map(({ faceSizes }) => faceSizes.length)),
  };
}

/** Faces that lie on those of the cage from one to before another. */
export const facesFrom = ({ faceOf }: Subdivided, from: number, to: number): Uint32Array =>
  Uint32Array.from([...faceOf.keys()].filter((face) => faceOf[face] >= from && faceOf[face] < to));

/** UVs of the same value are one, so that islands go on from part to part. */
function joinLayers(layers: CornerLayer[]): CornerLayer {
  const values = concat(Float32Array, layers.map((layer) => layer.values)); // prettier-ignore
  const offsets = startsOf(layers.map((layer) => layer.values.length / 2));
  const bits = new Uint32Array(values.buffer);
  const map = new NumberMap(values.length / 2, 2);
  const numberOf = Uint32Array.from({ length: values.length / 2 }, (_, i) => map.add(bits[2 * i], bits[2 * i + 1]));
  const out = new Float32Array(2 * map.size);
  numberOf.forEach((number, i) => out.set(values.subarray(2 * i, 2 * i + 2), 2 * number));
  const indices = concat(Uint32Array, layers.map((layer, k) => layer.indices.map((index) => numberOf[offsets[k] + index]))); // prettier-ignore
  return { name: layers[0].name, values: out, indices };
}

function startsOf(counts: number[]): number[] {
  const starts = [0];
  for (const count of counts) starts.push(starts.at(-1)! + count);
  return starts;
}

function concat<A extends Float32Array | Uint32Array>(Kind: new (length: number) => A, all: A[]): A {
  const out = new Kind(all.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const one of all) {
    out.set(one, at);
    at += one.length;
  }
  return out;
}
