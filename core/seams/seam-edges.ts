/**
 * Edges of a mesh where two faces meet in separate vertices: borders of UV islands, split normals. And edges where a mesh ends,
 * which may meet those of another one.
 */
import { NumberMap, weld } from '../data/poly-mesh.ts';
import type { MovedShape } from './moved-shapes.ts';

export interface SeamEdges {
  /** 4 vertices an edge: from and to on one side, the same two places on the other. */
  seams: Uint32Array;
  /** 2 vertices an edge: the third corner of the face on either side. */
  inside: Uint32Array;
  /** 2 vertices an edge of one face. */
  borders: Uint32Array;
}

/** What a mesh is made of does not change; what a map does to it is of no account here. */
const known = new WeakMap<Uint32Array, { before: Float32Array; edges: SeamEdges }>();

export function seamEdges({ indices, before }: MovedShape['mesh']): SeamEdges {
  const kept = known.get(indices);
  if (kept?.before === before) return kept.edges;
  const edges = find(indices, before);
  known.set(indices, { before, edges });
  return edges;
}

function find(indices: Uint32Array, before: Float32Array): SeamEdges {
  const { pointOf } = weld(before);
  const map = new NumberMap(indices.length, 2);
  /** Vertices of the first face at each edge, by the lower point first, and how many faces there are. */
  const first = new Uint32Array(2 * indices.length);
  const faces = new Uint8Array(indices.length);
  const seams: number[] = [];
  const inside: number[] = [];
  const third = new Uint32Array(indices.length);
  for (let i = 0; i < indices.length; i++) {
    const [a, b] = [indices[i], indices[i % 3 === 2 ? i - 2 : i + 1]];
    if (pointOf[a] === pointOf[b]) continue;
    const [low, high] = pointOf[a] < pointOf[b] ? [a, b] : [b, a];
    const edge = map.add(pointOf[low], pointOf[high]);
    faces[edge] = Math.min(255, faces[edge] + 1);
    const corner = indices[i - (i % 3) + (((i % 3) + 2) % 3)];
    if (faces[edge] === 1) {
      first.set([low, high], 2 * edge);
      third[edge] = corner;
    } else if (first[2 * edge] !== low || first[2 * edge + 1] !== high) {
      seams.push(first[2 * edge], first[2 * edge + 1], low, high);
      inside.push(third[edge], corner);
    }
  }
  const borders: number[] = [];
  for (let edge = 0; edge < map.size; edge++) if (faces[edge] === 1) borders.push(first[2 * edge], first[2 * edge + 1]);
  return { seams: Uint32Array.from(seams), inside: Uint32Array.from(inside), borders: Uint32Array.from(borders) };
}
