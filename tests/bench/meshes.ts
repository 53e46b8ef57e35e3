/** Meshes that rays are measured against. */
import { BufferAttribute, BufferGeometry } from 'three';
import type { Mesh } from '../../core/data/mesh.ts';
import { box } from '../../demo/shapes.ts';
import { sphere } from '../unit/helpers.ts';
import { randomNumbers } from '../unit/size.ts';

/** A closed room of 10 m with fifty balls in it: 12 thousand triangles. */
export function room(): Mesh {
  const random = randomNumbers(3);
  const parts = [box([-5, -5, -5], [5, 5, 5])];
  for (let k = 0; k < 50; k++) {
    const ball = sphere(0.3 + 0.5 * random(), 16);
    const at = [0, 1, 2].map(() => (random() - 0.5) * 8);
    parts.push({ ...ball, positions: ball.positions.map((p, i) => p + at[i % 3]) });
  }
  const positions: number[] = [];
  const indices: number[] = [];
  for (const part of parts) {
    const base = positions.length / 3;
    for (const p of part.positions) positions.push(p);
    for (const i of part.indices) indices.push(i + base);
  }
  return { positions: Float32Array.from(positions), normals: null, uvs: null, indices: Uint32Array.from(indices) };
}

/** Hills over a grid of n × n squares. */
export function terrain(n: number): Mesh {
  const positions = new Float32Array((n + 1) ** 2 * 3);
  for (let z = 0; z <= n; z++)
    for (let x = 0; x <= n; x++) {
      const [u, v] = [(x / n) * 10 - 5, (z / n) * 10 - 5];
      const height = 0.6 * Math.sin(u * 2) * Math.cos(v * 1.7) + 0.1 * Math.sin(u * 11 + v * 7);
      positions.set([u, height, v], (z * (n + 1) + x) * 3);
    }
  const indices = new Uint32Array(n * n * 6);
  for (let z = 0; z < n; z++)
    for (let x = 0; x < n; x++) {
      const a = z * (n + 1) + x;
      indices.set([a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2], (z * n + x) * 6);
    }
  return { positions, normals: null, uvs: null, indices };
}

export const meshes: [string, () => Mesh][] = [
  ['room, 12 k triangles', room],
  ['sphere, 500 k triangles', () => sphere(4, 708)],
  ['terrain, 2 M triangles', () => terrain(1000)],
];

export function forLibrary(mesh: Mesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
  return geometry;
}
