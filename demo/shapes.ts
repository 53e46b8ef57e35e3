/** Meshes the demo shots are built from, metres. */
import type { Mesh } from '../core/data/mesh.ts';

/** Box with flat faces, from its minimum to its maximum corner; each face has UVs in metres times `texels`. */
export function box(min: [number, number, number], max: [number, number, number], uvScale = 1): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  for (let axis = 0; axis < 3; axis++) {
    const u = (axis + 1) % 3;
    const v = (axis + 2) % 3;
    for (const side of [0, 1]) {
      const base = positions.length / 3;
      for (const [a, b] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ]) {
        const p = [0, 0, 0];
        p[axis] = side ? max[axis] : min[axis];
        p[u] = a ? max[u] : min[u];
        p[v] = b ? max[v] : min[v];
        const n = [0, 0, 0];
        n[axis] = side ? 1 : -1;
        positions.push(...p);
        normals.push(...n);
        uvs.push(p[u] * uvScale, p[v] * uvScale);
      }
      const quad = side ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2];
      indices.push(...quad.map((i) => base + i));
    }
  }
  return mesh(positions, normals, uvs, indices);
}

/**
 * Closed body of revolution about +Y. The profile runs from the axis to the axis, [radius, height]
 * each, counter-clockwise seen with +X right and +Y up, so that the outside is on its right hand.
 * A point whose neighbours turn by less than `smooth` degrees gets a common normal.
 */
export function lathe(profile: [number, number][], segments: number, smooth = 50): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  const normalOf = (k: number) => {
    const [r0, y0] = profile[k];
    const [r1, y1] = profile[k + 1];
    const l = Math.hypot(r1 - r0, y1 - y0);
    return [(y1 - y0) / l, -(r1 - r0) / l];
  };
  const turn = Math.cos((smooth * Math.PI) / 180);
  const joined = (k: number, other: number) => {
    const a = normalOf(k);
    if (other < 0 || other >= profile.length - 1) return a;
    const b = normalOf(other);
    if (a[0] * b[0] + a[1] * b[1] < turn) return a;
    const l = Math.hypot(a[0] + b[0], a[1] + b[1]);
    return [(a[0] + b[0]) / l, (a[1] + b[1]) / l];
  };
  for (let k = 0; k < profile.length - 1; k++) {
    const ends = [joined(k, k - 1), joined(k, k + 1)];
    const base = positions.length / 3;
    for (let s = 0; s <= segments; s++) {
      const angle = (2 * Math.PI * (s % segments)) / segments;
      const [c, d] = [Math.cos(angle), Math.sin(angle)];
      for (const end of [0, 1]) {
        const [r, y] = profile[k + end];
        positions.push(r * c, y, -r * d);
        normals.push(ends[end][0] * c, ends[end][1], -ends[end][0] * d);
        uvs.push(s / segments, y);
      }
    }
    for (let s = 0; s < segments; s++) {
      const i = base + s * 2;
      if (profile[k][0] > 0) indices.push(i, i + 2, i + 1);
      if (profile[k + 1][0] > 0) indices.push(i + 1, i + 2, i + 3);
    }
  }
  return mesh(positions, normals, uvs, indices);
}

/** A piece of a cylinder's side about +Y, seen from outside, that faces +Z; UVs run 0–1 over it. */
export function cylinderPatch(radius: number, y0: number, y1: number, degrees: number, segments: number): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  for (let s = 0; s <= segments; s++) {
    const angle = ((s / segments - 0.5) * degrees * Math.PI) / 180;
    for (const end of [0, 1]) {
      positions.push(radius * Math.sin(angle), end ? y1 : y0, radius * Math.cos(angle));
      normals.push(Math.sin(angle), 0, Math.cos(angle));
      uvs.push(s / segments, end);
    }
    if (s < segments) {
      const i = s * 2;
      indices.push(i, i + 2, i + 1, i + 1, i + 2, i + 3);
    }
  }
  return mesh(positions, normals, uvs, indices);
}

function mesh(positions: number[], normals: number[], uvs: number[], indices: number[]): Mesh {
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
}
