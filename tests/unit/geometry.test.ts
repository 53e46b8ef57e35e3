/** Rays against geometry: the same hits as a general-purpose library, no leaks, every face in its turn. */
import { expect } from 'chai';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Mesh } from '../../core/data/mesh.ts';
import { invert, lookAt, multiply, rotationX, rotationY, scaling, translation } from '../../core/data/transform.ts';
import { buildBvh } from '../../core/geometry/bvh-build.ts';
import { ALL_RAYS, BvhIntersector } from '../../core/geometry/intersector.ts';
import { compileGeometry, compileMesh, type InstanceSpec } from '../../core/geometry/scene-geometry.ts';
import { box, lathe } from '../../demo/shapes.ts';
import { sphere, square } from './helpers.ts';
import { atSize, randomDirection, randomNumbers } from './size.ts';

function rays(meshes: Mesh[], instances: Partial<InstanceSpec>[]) {
  const compiled = meshes.map((mesh) => compileMesh(mesh));
  const specs = instances.map((i) => ({ mesh: 0, transform: translation(0, 0, 0), mask: ALL_RAYS, ...i }));
  return new BvhIntersector(compileGeometry(compiled, specs));
}

/** Triangles of no order, some of them slivers, and some sharing a plane. */
function triangleSoup(count: number, seed: number): Mesh {
  const random = randomNumbers(seed);
  const positions = new Float32Array(count * 9);
  for (let t = 0; t < count; t++) {
    const size = t % 7 === 0 ? 0.002 : 0.3;
    const centre = [random() * 4 - 2, random() * 4 - 2, t % 5 === 0 ? 0 : random() * 4 - 2];
    for (let c = 0; c < 3; c++)
      for (let a = 0; a < 3; a++)
        positions[t * 9 + c * 3 + a] = centre[a] + (a === 2 && t % 5 === 0 ? 0 : (random() - 0.5) * size);
  }
  return { positions, normals: null, uvs: null, indices: Uint32Array.from({ length: count * 3 }, (_, i) => i) };
}

/** The same mesh in three-mesh-bvh, as the reference. */
function reference(mesh: Mesh) {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
  const bvh = new MeshBVH(geometry);
  return (o: number[], d: number[]) => {
    const hit = bvh.raycastFirst(new Ray(new Vector3(...o), new Vector3(...d)), DoubleSide, 0, Infinity);
    return hit ? hit.distance : Infinity;
  };
}

describe('rays against meshes', () => {
  const meshes: [string, Mesh][] = [
    ['a soup of triangles', triangleSoup(3000, 5)],
    ['a sphere', sphere(1.2, 64)],
    ['a lathed jar', lathe([[0, 0], [1, 0], [1, 1.5], [0.7, 1.8], [0.6, 1.8], [0.9, 1.4], [0.9, 0.1], [0, 0.1]], 48)],
  ]; // prettier-ignore
  for (const [name, mesh] of meshes)
    it(`find the same closest hit as three-mesh-bvh on ${name}`, () => {
      const ours = rays([mesh], [{}]);
      const theirs = reference(mesh);
      const random = randomNumbers(11);
      let hits = 0;
      for (let i = 0; i < atSize(4000, 200_000); i++) {
        const o = [random() * 6 - 3, random() * 6 - 3, random() * 6 - 3];
        const d = randomDirection(random);
        const t = ours.closest(o[0], o[1], o[2], ...d, Infinity, ALL_RAYS) ? ours.t : Infinity;
        const want = theirs(o, d);
        if (want === Infinity) expect(t).to.equal(Infinity);
        else expect(t).to.be.closeTo(want, 1e-4 * Math.max(1, want));
        hits += t < Infinity ? 1 : 0;
        expect(ours.occluded(o[0], o[1], o[2], ...d, Infinity, ALL_RAYS)).to.equal(t < Infinity);
        if (t < Infinity) {
          expect(ours.occluded(o[0], o[1], o[2], ...d, t * 0.999, ALL_RAYS)).to.equal(false);
          expect(ours.occluded(o[0], o[1], o[2], ...d, t * 1.001, ALL_RAYS)).to.equal(true);
        }
      }
      expect(hits).to.be.above(300);
    });

  it('go through instances as through meshes that were moved', () => {
    const mesh = triangleSoup(500, 9);
    const transform = multiply(
      translation(3, -2, 5),
      multiply(rotationY(33), multiply(rotationX(-71), scaling(2, 0.5, 1.5))),
    );
    const moved: Mesh = { ...mesh, positions: mesh.positions.slice() };
    for (let i = 0; i < mesh.positions.length; i += 3)
      for (let row = 0; row < 3; row++)
        moved.positions[i + row] =
          transform[row] * mesh.positions[i] +
          transform[4 + row] * mesh.positions[i + 1] +
          transform[8 + row] * mesh.positions[i + 2] +
          transform[12 + row];
    const instanced = rays([mesh], [{ transform }]);
    const theirs = reference(moved);
    const random = randomNumbers(3);
    let apart = 0;
    for (let i = 0; i < 2000; i++) {
      const o = [3 + random() * 10 - 5, -2 + random() * 10 - 5, 5 + random() * 10 - 5];
      const d = randomDirection(random);
      const t = instanced.closest(o[0], o[1], o[2], ...d, Infinity, ALL_RAYS) ? instanced.t : Infinity;
      const want = theirs(o, d);
      if (t !== want && !(Math.abs(t - want) <= 1e-4 * want)) apart++;
    }
    // Rounding of the moved corners to 32 bits lets a ray or two pass on the other side of an edge.
    expect(apart).to.be.at.most(2);
  });

  it('meet every face of a pile in its turn, coincident ones included, lowest number first', () => {
    const piles = rays([square(1, 0)], [{}, {}, { transform: translation(0, 0, -1) }]);
    const met: string[] = [];
    let hit = piles.closest(0.3, 0.2, 5, 0, 0, -1, Infinity, ALL_RAYS);
    while (hit) {
      met.push(`${piles.instance}@${piles.t}`);
      hit = piles.closestAfter(piles.t, piles.instance, piles.triangle);
    }
    expect(met).to.deep.equal(['0@5', '1@5', '2@6']);
  });

  it('see only instances whose mask they share, and nothing behind their end', () => {
    const masked = rays([square(1, 0)], [{ mask: 1 }, { mask: 2, transform: translation(0, 0, -1) }]);
    expect(masked.closest(0, 0.1, 5, 0, 0, -1, Infinity, 2)).to.equal(true);
    expect(masked.t).to.equal(6);
    expect(masked.closest(0, 0.1, 5, 0, 0, -1, 5.5, 2)).to.equal(false);
    expect(masked.occluded(0, 0.1, 5, 0, 0, -1, Infinity, 4)).to.equal(false);
  });

  it('give the weights of the corners where they hit', () => {
    const one = rays(
      [
        {
          positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]),
          normals: null,
          uvs: null,
          indices: Uint32Array.from([0, 1, 2]),
        },
      ],
      [{}],
    );
    expect(one.closest(0.2, 0.5, 1, 0, 0, -1, Infinity, ALL_RAYS)).to.equal(true);
    expect(one.u).to.be.closeTo(0.2, 1e-12);
    expect(one.v).to.be.closeTo(0.5, 1e-12);
  });

  it('never leave a closed mesh, aimed at edges and corners too (Woop, Benthin & Wald 2013)', () => {
    const mesh = sphere(1, 24);
    const closed = rays([mesh], [{ transform: multiply(translation(1000, -3, 7), rotationY(17)) }]);
    const p = mesh.positions;
    const random = randomNumbers(23);
    const [ca, sa] = [Math.cos((17 * Math.PI) / 180), Math.sin((17 * Math.PI) / 180)];
    for (let i = 0; i < atSize(200_000, 100_000_000); i++) {
      const o = [1000 + (random() - 0.5) * 0.8, -3 + (random() - 0.5) * 0.8, 7 + (random() - 0.5) * 0.8];
      let d: number[] = randomDirection(random);
      if (i % 2) {
        // Straight at a corner, or at a point of an edge, of some triangle.
        const t = Math.floor(random() * (mesh.indices.length / 3)) * 3;
        const a = mesh.indices[t] * 3;
        const b = mesh.indices[t + 1] * 3;
        const w = i % 4 === 1 ? 0 : random();
        const [x, y, z] = [0, 1, 2].map((k) => p[a + k] + w * (p[b + k] - p[a + k]));
        d = [ca * x + sa * z + 1000 - o[0], y - 3 - o[1], -sa * x + ca * z + 7 - o[2]];
      }
      if (!closed.closest(o[0], o[1], o[2], d[0], d[1], d[2], Infinity, ALL_RAYS))
        expect.fail(`ray ${i} from ${o} along ${d} left the sphere`);
    }
  }).timeout(atSize(60_000, 4 * 3600_000));
});

describe('trees over boxes', () => {
  const random = randomNumbers(1);
  const boxes = new Float32Array(6 * 700);
  for (let i = 0; i < 700; i++)
    for (let a = 0; a < 3; a++) {
      boxes[i * 6 + a] = random() * 10;
      boxes[i * 6 + 3 + a] = boxes[i * 6 + a] + random();
    }

  it('hold every item once, inside every node above it, at most so many a leaf', () => {
    const bvh = buildBvh(boxes, 4);
    const seen = new Set<number>();
    const walk = (node: number, above: number[]): void => {
      const bounds = [...bvh.bounds.subarray(node * 6, node * 6 + 6)];
      for (let a = 0; a < 3; a++) {
        expect(bounds[a]).to.be.at.least(above[a]);
        expect(bounds[a + 3]).to.be.at.most(above[a + 3]);
      }
      const [link, count] = [bvh.links[node * 2], bvh.links[node * 2 + 1]];
      if (count > 0) {
        expect(count).to.be.at.most(4);
        for (let k = link; k < link + count; k++) {
          const item = bvh.order[k];
          expect(seen.has(item)).to.equal(false);
          seen.add(item);
          for (let a = 0; a < 3; a++) {
            expect(boxes[item * 6 + a]).to.be.at.least(bounds[a]);
            expect(boxes[item * 6 + 3 + a]).to.be.at.most(bounds[a + 3]);
          }
        }
      } else {
        walk(node + 1, bounds);
        walk(link, bounds);
      }
    };
    walk(0, [-Infinity, -Infinity, -Infinity, Infinity, Infinity, Infinity]);
    expect(seen.size).to.equal(700);
  });

  it('are built of nothing, of one item, and of items that all stand in one place', () => {
    expect(buildBvh(new Float32Array(0), 4).nodeCount).to.equal(0);
    expect(buildBvh(boxes.slice(0, 6), 4).nodeCount).to.equal(1);
    const same = new Float32Array(6 * 50).map((_, i) => boxes[i % 6]);
    const bvh = buildBvh(same, 4);
    expect(new Set(bvh.order).size).to.equal(50);
  });
});

describe('transforms', () => {
  it('are undone by their inverse, in doubles', () => {
    const m = multiply(
      translation(40_000, 3, -9),
      multiply(rotationY(31), multiply(rotationX(12), scaling(0.1, 5, 2))),
    );
    const unit = multiply(m, invert(m));
    for (let i = 0; i < 16; i++) expect(unit[i]).to.be.closeTo(i % 5 === 0 ? 1 : 0, 1e-10);
    expect(() => invert(scaling(1, 0, 1))).to.throw(RangeError, 'flattens space');
  });

  it('look along −Z at their target with +Y up (Conventions)', () => {
    const m = lookAt([1, 2, 3], [1, 2, -7]);
    expect(m.slice(0, 12).map((v) => Math.round(v * 1e9) / 1e9 + 0)).to.deep.equal([
      1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0,
    ]);
    const side = lookAt([0, 0, 0], [5, 0, 0]);
    expect([-side[8], -side[9], -side[10]].map((v) => v + 0)).to.deep.equal([1, 0, 0]);
    expect(() => lookAt([0, 0, 0], [0, 1, 0])).to.throw(RangeError);
  });
});

describe('shapes of the demo', () => {
  /** Edges with the faces on either side; a closed, oriented mesh has each edge once in each direction. */
  function edges(mesh: Mesh): Map<string, number> {
    // Corners that stand in one place are one corner: normals and UVs split them.
    const name = (i: number) => [0, 1, 2].map((a) => Math.round(mesh.positions[i * 3 + a] * 1e6)).join();
    const count = new Map<string, number>();
    for (let t = 0; t < mesh.indices.length; t += 3)
      for (let e = 0; e < 3; e++) {
        const [a, b] = [name(mesh.indices[t + e]), name(mesh.indices[t + ((e + 1) % 3)])];
        count.set(`${a}>${b}`, (count.get(`${a}>${b}`) ?? 0) + 1);
      }
    return count;
  }

  const jar = lathe([[0, 0], [1, 0], [1, 2], [0.9, 2], [0.9, 0.1], [0, 0.1]], 32); // prettier-ignore
  for (const [name, mesh] of [
    ['box', box([0, 0, 0], [1, 2, 3])],
    ['lathe', jar],
  ] as const)
    it(`${name}: is closed and turned one way: every edge once each way (textbook topology)`, () => {
      const all = edges(mesh);
      for (const [edge, n] of all) {
        expect(n).to.equal(1);
        expect(all.get(edge.split('>').reverse().join('>')), edge).to.equal(1);
      }
      const corners = new Set([...all.keys()].map((e) => e.split('>')[0])).size;
      expect(corners - all.size / 2 + mesh.indices.length / 3, 'Euler number').to.equal(2);
    });

  it('enclose a positive volume: their faces look outwards (divergence theorem)', () => {
    const volume = ({ positions: p, indices }: Mesh) => {
      let sum = 0;
      for (let t = 0; t < indices.length; t += 3) {
        const [a, b, c] = [0, 1, 2].map((k) => indices[t + k] * 3);
        sum +=
          p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
          p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
          p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
      }
      return sum / 6;
    };
    expect(volume(box([0, 0, 0], [1, 2, 3]))).to.be.closeTo(6, 1e-6);
    // A wall of 0.1 and a floor of 0.1 around a 32-sided prism.
    const disc = 16 * Math.sin(Math.PI / 16);
    expect(volume(jar)).to.be.closeTo(disc * (2 - 0.81 * 1.9), 1e-5);
  });
});
