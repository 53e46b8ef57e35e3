/** Meshes of the dawn set, and what somebody did to them. */
import type { Mesh, PolygonData } from '../../core/data/mesh.ts';
import { box } from '../shapes.ts';

/** The same body with all its faces the other way about. */
export const insideOut = (mesh: Mesh): Mesh => ({ ...mesh, indices: mesh.indices.slice().reverse() });

/** Some of its triangles once more. */
export const withTwice = (mesh: Mesh, triangles: number): Mesh => ({
  ...mesh,
  indices: Uint32Array.from([...mesh.indices, ...mesh.indices.slice(0, triangles * 3)]),
});

/** One more triangle, from one corner to itself. */
export const withNothing = (mesh: Mesh): Mesh => ({
  ...mesh,
  indices: Uint32Array.from([...mesh.indices, mesh.indices[0], mesh.indices[0], mesh.indices[1]]),
});

/** The first face, two triangles with four corners of their own, the other way about, normals and all. */
export const withOneTurned = (mesh: Mesh): Mesh => ({
  ...mesh,
  normals: mesh.normals!.map((n, i) => (i < 12 ? -n : n)),
  indices: Uint32Array.from([...[...mesh.indices.slice(0, 6)].reverse(), ...mesh.indices.slice(6)]),
});

export const withoutUvs = (mesh: Mesh): Mesh => ({ ...mesh, uvs: null });

/** A body without the faces that look down. */
export const withoutFloor = (mesh: Mesh): Mesh => ({
  ...mesh,
  indices: Uint32Array.from(
    Array.from({ length: mesh.indices.length / 3 }, (_, t) => [...mesh.indices.slice(t * 3, t * 3 + 3)])
      .filter((corners) => corners.some((v) => mesh.normals![v * 3 + 1] > -0.9))
      .flat(),
  ),
});

/** A fin that stands on one of the body's edges. */
export function withFin(mesh: Mesh): Mesh {
  const [a, b] = [mesh.indices[0], mesh.indices[1]];
  const at = (v: number) => [...mesh.positions.slice(v * 3, v * 3 + 3)];
  const [p, q] = [at(a), at(b)];
  const tip = p.map((v, k) => (v + q[k]) / 2 + (k === 0 ? -0.08 : 0.05));
  const base = mesh.positions.length / 3;
  const [u, v] = [q.map((c, k) => c - p[k]), tip.map((c, k) => c - p[k])];
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const normal = n.map((c) => c / Math.hypot(...n));
  return {
    positions: Float32Array.from([...mesh.positions, ...p, ...q, ...tip]),
    normals: Float32Array.from([...mesh.normals!, ...normal, ...normal, ...normal]),
    uvs: Float32Array.from([...mesh.uvs!, 0, 0, 1, 0, 0.5, 1]),
    indices: Uint32Array.from([...mesh.indices, base, base + 1, base + 2]),
  };
}

/** A table top of eight corners, each of its two sides one face. */
export function octagon(radius: number, height: number): Mesh & { polygons: PolygonData } {
  const ring = Array.from({ length: 8 }, (_, k) => {
    const a = (2 * Math.PI * (k + 0.5)) / 8;
    return [radius * Math.cos(a), -radius * Math.sin(a)];
  });
  const positions = [height, height - 0.03].flatMap((y) => ring.flatMap(([x, z]) => [x, y, z]));
  const fan = (of: (k: number) => number) => Array.from({ length: 6 }, (_, k) => [of(0), of(k + 1), of(k + 2)]).flat();
  const rim = ring.flatMap((_, k) => {
    const n = (k + 1) % 8;
    return [8 + k, 8 + n, n, 8 + k, n, k];
  });
  return {
    positions: Float32Array.from(positions),
    normals: null,
    uvs: Float32Array.from([...ring, ...ring].flat()),
    indices: Uint32Array.from([...fan((k) => k), ...fan((k) => 8 + ((8 - k) % 8)), ...rim]),
    polygons: { faces: [8, 2, 4, 8], subdivision: 'none', creases: [] },
  };
}

/** A cushion that was meant to be subdivided. */
export const cushion = (): Mesh & { polygons: PolygonData } => ({
  ...box([-0.22, 0, -0.22], [0.22, 0.1, 0.22], 2),
  polygons: { faces: [4, 6], subdivision: 'catmull-clark', creases: [] },
});

/** Several bodies as one mesh. */
export function joined(...parts: Mesh[]): Mesh {
  const starts = parts.map((_, i) => parts.slice(0, i).reduce((sum, { positions }) => sum + positions.length / 3, 0));
  return {
    positions: Float32Array.from(parts.flatMap(({ positions }) => [...positions])),
    normals: Float32Array.from(parts.flatMap(({ normals }) => [...normals!])),
    uvs: Float32Array.from(parts.flatMap(({ uvs }) => [...uvs!])),
    indices: Uint32Array.from(parts.flatMap(({ indices }, i) => [...indices].map((v) => v + starts[i]))),
  };
}
