/** The kernel's block of memory: eight-wide trees that hold what the binary ones hold. */
import { expect } from 'chai';
import { identity, translation } from '../../core/data/transform.ts';
import { ALL_RAYS } from '../../core/geometry/intersector.ts';
import { layOut } from '../../core/geometry/packed-geometry.ts';
import { compileGeometry, compileMesh } from '../../core/geometry/scene-geometry.ts';
import { sphere, square } from './helpers.ts';

describe('packed geometry', () => {
  const meshes = [compileMesh(sphere(1, 40)), compileMesh(square(1, 0))];
  const geometry = compileGeometry(meshes, [
    { mesh: 0, transform: translation(0.1, 0.2, 0.3), mask: ALL_RAYS },
    { mesh: 1, transform: identity(), mask: 5 },
    { mesh: 0, transform: translation(1e5 + 0.1, 0, 0), mask: ALL_RAYS },
  ]);
  const layout = layOut(geometry);
  const buffer = new ArrayBuffer(layout.pages * 65536);
  layout.write(buffer);
  const words = new Int32Array(buffer);
  const floats = new Float32Array(buffer);
  const header = words.subarray(1024, 1032);

  interface Leaf {
    place: number;
    count: number;
    box: number[];
  }

  /** Leaves below a node, and their boxes, which the boxes above them must hold. */
  function leaves(tree: number, node = 0, above = [-Infinity, -Infinity, -Infinity, Infinity, Infinity, Infinity]) {
    const out: Leaf[] = [];
    const at = (tree + node * 32) / 4;
    for (let k = 0; k < 8; k++) {
      const reference = words[at + 48 + k];
      const box = [0, 1, 2, 3, 4, 5].map((plane) => floats[at + plane * 8 + k]);
      if (reference === 0) {
        expect(box).to.deep.equal([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
        continue;
      }
      for (let a = 0; a < 3; a++) {
        expect(box[a]).to.be.at.least(above[a]);
        expect(box[a + 3]).to.be.at.most(above[a + 3]);
      }
      if (reference < 0) out.push({ place: -reference >> 3, count: -reference & 7, box });
      else out.push(...leaves(tree, reference, box));
    }
    return out;
  }

  it('holds every triangle of a mesh in one packet, its corners in the box of its leaf', () => {
    for (const [i, mesh] of meshes.entries()) {
      const tree = words[header[6] / 4 + i];
      const seen = new Set<number>();
      for (const { place, count, box } of leaves(tree)) {
        const packet = (tree + place * 32) / 4;
        for (let lane = 0; lane < count; lane++) {
          const triangle = words[packet + 36] + lane;
          expect(seen.has(triangle)).to.equal(false);
          seen.add(triangle);
          for (let corner = 0; corner < 3; corner++)
            for (let a = 0; a < 3; a++) {
              const p = floats[packet + (corner * 3 + a) * 4 + lane];
              expect(p).to.equal(mesh.positions[mesh.indices[triangle * 3 + corner] * 3 + a]);
              expect(p).to.be.within(box[a], box[a + 3]);
            }
        }
      }
      expect(seen.size).to.equal(mesh.indices.length / 3);
    }
  });

  it('rounds boxes outwards where 32 bits cannot hold them', () => {
    const boxes = leaves(header[0]).map((leaf) => leaf.box);
    const widest = (a: number) => [Math.min(...boxes.map((b) => b[a])), Math.max(...boxes.map((b) => b[a + 3]))];
    for (let a = 0; a < 3; a++) {
      const [low, high] = widest(a);
      const places = [0, 1, 2].map((i) => geometry.toWorld[i * 12 + a * 4 + 3]);
      const half = [1, a === 2 ? 0 : 1, 1];
      const truth = [Math.min(...places.map((p, i) => p - half[i])), Math.max(...places.map((p, i) => p + half[i]))];
      expect(low).to.be.at.most(truth[0]);
      expect(high).to.be.at.least(truth[1]);
      expect(high - truth[1]).to.be.below(0.02);
    }
  });

  it('stands on addresses that suit its data, and has room for every thread', () => {
    for (const address of header.subarray(0, 7)) expect(address % 16).to.equal(0);
    expect(header[7]).to.equal(layout.slots);
    const matrix = new Float64Array(buffer, header[5], 36);
    expect([...matrix]).to.deep.equal([...geometry.toMesh]);
  });
});
