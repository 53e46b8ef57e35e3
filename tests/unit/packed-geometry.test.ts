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

  /** Leaves below a node as (first, count), each inside every box above it. */
  function leaves(nodes: number, node: number, inside: (box: number[]) => void): [number, number][] {
    const out: [number, number][] = [];
    const at = (nodes + node * 224) / 4;
    for (let k = 0; k < 8; k++) {
      const reference = words[at + 48 + k];
      if (reference === 0) continue;
      inside([0, 1, 2, 3, 4, 5].map((plane) => floats[at + plane * 8 + k]));
      if (reference < 0) out.push([-reference >> 3, -reference & 7]);
      else out.push(...leaves(nodes, reference, inside));
    }
    return out;
  }

  it('holds every triangle of a mesh in one leaf', () => {
    const entry = header[6] / 4;
    for (const [i, mesh] of meshes.entries()) {
      const seen = new Set<number>();
      for (const [first, count] of leaves(words[entry + i * 2], 0, () => {}))
        for (let t = first; t < first + count; t++) {
          expect(seen.has(t)).to.equal(false);
          seen.add(t);
        }
      expect(seen.size).to.equal(mesh.indices.length / 3);
    }
  });

  it('rounds boxes outwards where 32 bits cannot hold them', () => {
    const boxes: number[][] = [];
    leaves(header[0], 0, (box) => boxes.push(box));
    const widest = (a: number) => [Math.min(...boxes.map((b) => b[a])), Math.max(...boxes.map((b) => b[a + 3]))];
    for (let a = 0; a < 3; a++) {
      const [low, high] = widest(a);
      expect(low).to.be.at.most(geometry.topBounds[a]);
      expect(high).to.be.at.least(geometry.topBounds[a + 3]);
      expect(high - geometry.topBounds[a + 3]).to.be.below(0.02);
    }
  });

  it('stands on addresses that suit its data, and has room for every thread', () => {
    for (const address of header.subarray(0, 7)) expect(address % 16).to.equal(0);
    expect(header[7]).to.equal(layout.slots);
    const matrix = new Float64Array(buffer, header[5], 36);
    expect([...matrix]).to.deep.equal([...geometry.toMesh]);
  });
});
