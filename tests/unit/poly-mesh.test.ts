/** Polygons into triangles and back: areas by the shoelace formula, corners kept, normals by group. */
import { expect } from 'chai';
import { emptyPolyMesh, polygonsOf, smoothNormals, trianglesOf, weld, NumberMap, type PolyMesh } from '../../core/data/poly-mesh.ts'; // prettier-ignore
import { randomNumbers } from './size.ts';

const polygon = (outline: number[][], plane = 2): PolyMesh => ({
  ...emptyPolyMesh(),
  points: Float32Array.from(outline.flatMap(([x, y]) => (plane === 2 ? [x, y, 0] : plane === 0 ? [0, x, y] : [y, 0, x]))), // prettier-ignore
  faceSizes: Uint32Array.of(outline.length),
  corners: Uint32Array.from(outline.keys()),
});

function areas({ positions: p, indices }: ReturnType<typeof trianglesOf>): { sum: number; turned: boolean } {
  const total = [0, 0, 0];
  let sum = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
    const u = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
    const v = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    sum += Math.hypot(...n) / 2;
    n.forEach((value, k) => (total[k] += value / 2));
  }
  // Where all triangles face one way, the length of the sum is the sum of the lengths.
  return { sum, turned: Math.abs(Math.hypot(...total) - sum) > 1e-5 * sum };
}

const shoelace = (outline: number[][]): number =>
  Math.abs(outline.reduce((s, [x, y], i) => s + x * outline[(i + 1) % outline.length][1] - outline[(i + 1) % outline.length][0] * y, 0)) / 2; // prettier-ignore

describe('Polygons', () => {
  const star = Array.from({ length: 10 }, (_, i) => {
    const [r, a] = [i % 2 ? 0.4 : 1, (Math.PI * i) / 5];
    return [r * Math.cos(a), r * Math.sin(a)];
  });
  const comb = [[0, 0], [5, 0], [5, 3], [4, 3], [4, 1], [3, 1], [3, 3], [2, 3], [2, 1], [1, 1], [1, 3], [0, 3]]; // prettier-ignore
  const dart = [[0, 0], [2, 0], [0.3, 0.3], [0, 2]]; // prettier-ignore
  for (const [name, outline] of [
    ['a star', star],
    ['a comb', comb],
    ['a dart of four corners', dart],
  ] as const)
    for (const plane of [0, 1, 2])
      it(`${name} in the plane across axis ${plane} keeps its area, all triangles facing its way, both ways round`, () => {
        for (const way of [outline, [...outline].reverse()]) {
          const { sum, turned } = areas(trianglesOf(polygon(way, plane)));
          expect(sum).to.be.closeTo(shoelace(outline), 1e-5);
          expect(turned).to.equal(false);
        }
      });

  it('share a vertex where point, normal and UV are one, and part where one differs', () => {
    const quad: PolyMesh = { ...polygon([[0, 0], [1, 0], [1, 1], [0, 1]]), faceSizes: Uint32Array.of(3, 3), corners: Uint32Array.of(0, 1, 2, 0, 2, 3) }; // prettier-ignore
    expect(trianglesOf(quad).positions.length / 3).to.equal(4);
    const uv = (indices: number[]) => [{ name: 'st', values: Float32Array.of(0, 0, 1, 1), indices: Uint32Array.from(indices) }]; // prettier-ignore
    expect(trianglesOf({ ...quad, uvs: uv([0, 0, 0, 0, 0, 0]) }).positions.length / 3).to.equal(4);
    expect(trianglesOf({ ...quad, uvs: uv([0, 0, 0, 1, 1, 1]) }).positions.length / 3).to.equal(6);
    const { positions, pointOf } = trianglesOf(quad, Uint32Array.of(1));
    expect([...pointOf].map((point) => quad.points[point * 3])).to.deep.equal([...positions].filter((_, i) => i % 3 === 0)); // prettier-ignore
  });

  it('of no area keep their triangles, so that nothing vanishes unseen', () => {
    expect(trianglesOf(polygon([[0, 0], [1, 0], [2, 0], [3, 0], [4, 0]])).indices.length).to.equal(9); // prettier-ignore
  });

  it('come of triangles again: vertices of one place are one point, zeros of both signs alike', () => {
    const { points, pointOf } = weld(Float32Array.of(0, 0, 0, 1, 2, 3, -0, 0, -0, 1, 2, 3));
    expect([points.length / 3, [...pointOf]]).to.deep.equal([2, [0, 1, 0, 1]]);
    const mesh = { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0), normals: null, uvs: null, indices: Uint32Array.of(0, 1, 2, 3, 2, 1) }; // prettier-ignore
    expect([...polygonsOf(mesh).corners]).to.deep.equal([0, 1, 2, 0, 2, 1]);
  });

  it('are smooth within a group and sharp between groups, large faces counting more', () => {
    // A ridge: two squares of one size at right angles.
    const ridge: PolyMesh = { ...emptyPolyMesh(), points: Float32Array.of(0, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0, 1, 1, -1, 0, 1, -1, 1), faceSizes: Uint32Array.of(4, 4), corners: Uint32Array.of(0, 1, 3, 2, 2, 3, 5, 4) }; // prettier-ignore
    const at = (groups: number[], corner: number) => {
      const { values, indices } = smoothNormals(ridge, Uint32Array.from(groups));
      return [...values.slice(indices[corner] * 3, indices[corner] * 3 + 3)].map((v) => +v.toFixed(4));
    };
    expect(at([1, 1], 2)).to.deep.equal([0.7071, 0.7071, 0]);
    expect(at([1, 1], 2)).to.deep.equal(at([1, 1], 5));
    expect(at([1, 2], 2)).to.deep.equal([0, 1, 0]);
    expect(at([0, 0], 5)).to.deep.equal([1, 0, 0]);
  });

  it('numbers many runs of integers as a plain map would', () => {
    const random = randomNumbers(11);
    const numbers = new NumberMap(4, 3);
    const plain = new Map<string, number>();
    for (let i = 0; i < 20_000; i++) {
      const key = [0, 1, 2].map(() => Math.floor(random() * 30));
      const text = key.join();
      if (!plain.has(text)) plain.set(text, plain.size);
      expect(numbers.add(key[0], key[1], key[2])).to.equal(plain.get(text));
    }
    expect(numbers.size).to.equal(plain.size);
  });
});
