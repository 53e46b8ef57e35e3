/** Where instances stand in the world. */
import type { SceneGeometry } from './scene-geometry.ts';

/** Corners of an instance's triangles in the world, 9 numbers a triangle, metres. */
export function worldTriangles({ meshes, instanceMesh, toWorld }: SceneGeometry, instance: number): Float64Array {
  const { positions, indices } = meshes[instanceMesh[instance]];
  const out = new Float64Array(indices.length * 3);
  const o = instance * 12;
  for (let i = 0; i < indices.length; i++) {
    const p = indices[i] * 3;
    for (let a = 0; a < 3; a++)
      out[i * 3 + a] =
        toWorld[o + a * 4] * positions[p] +
        toWorld[o + a * 4 + 1] * positions[p + 1] +
        toWorld[o + a * 4 + 2] * positions[p + 2] +
        toWorld[o + a * 4 + 3];
  }
  return out;
}

export interface Box {
  min: [number, number, number];
  max: [number, number, number];
}

/** The box around points, 3 numbers each. */
export function boxOf(points: ArrayLike<number>): Box {
  const box: Box = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
  for (let i = 0; i < points.length; i++) {
    box.min[i % 3] = Math.min(box.min[i % 3], points[i]);
    box.max[i % 3] = Math.max(box.max[i % 3], points[i]);
  }
  return box;
}

export const holds = (outer: Box, inner: Box): boolean =>
  outer.min.every((v, a) => v <= inner.min[a]) && outer.max.every((v, a) => v >= inner.max[a]);

/** From a point to the furthest corner of a box, metres. */
export const furthest = ({ min, max }: Box, point: ArrayLike<number>): number =>
  Math.hypot(...min.map((v, a) => Math.max(Math.abs(v - point[a]), Math.abs(max[a] - point[a]))));
