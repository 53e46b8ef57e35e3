/** Meshes of known topology: Euler’s formula V − E + F, and planted defects with known counts. */
import { expect } from 'chai';
import { emptyPolyMesh, type PolyMesh } from '../../core/data/poly-mesh.ts';
import { topologyOf } from '../../core/geometry/topology.ts';

const mesh = (points: number[][], faces: number[][]): PolyMesh => ({
  ...emptyPolyMesh(),
  points: Float32Array.from(points.flat()),
  faceSizes: Uint32Array.from(faces, (face) => face.length),
  corners: Uint32Array.from(faces.flat()),
});

const cubePoints = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, (i >> 2) & 1]);
const cubeFaces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // prettier-ignore

/** A grid of faces, closed round in one or both directions. */
function grid(nu: number, nv: number, closedU: boolean, closedV: boolean): PolyMesh {
  const [pu, pv] = [closedU ? nu : nu + 1, closedV ? nv : nv + 1];
  const points = Array.from({ length: pu * pv }, (_, i) => {
    const [a, b] = [(2 * Math.PI * (i % pu)) / nu, (2 * Math.PI * Math.floor(i / pu)) / nv];
    return [(3 + Math.cos(b)) * Math.cos(a), Math.sin(b), (3 + Math.cos(b)) * Math.sin(a)];
  });
  const faces: number[][] = [];
  const at = (u: number, v: number) => (v % pv) * pu + (u % pu);
  for (let v = 0; v < nv; v++)
    for (let u = 0; u < nu; u++) faces.push([at(u, v), at(u, v + 1), at(u + 1, v + 1), at(u + 1, v)]);
  return mesh(points, faces);
}

const faults = (poly: PolyMesh) => {
  const { openEdges, nonManifoldEdges, mixedEdges, degenerate, duplicates, ngons } = topologyOf(poly);
  return [openEdges, nonManifoldEdges, mixedEdges, degenerate, duplicates, ngons].map((list) => list.length);
};

describe('Topology', () => {
  it('of a cube: V − E + F = 8 − 12 + 6 = 2, six times the volume 6, nothing wrong', () => {
    const cube = topologyOf(mesh(cubePoints, cubeFaces));
    expect([cube.points, cube.edges, cube.faces, cube.euler]).to.deep.equal([8, 12, 6, 2]);
    expect(cube.volume).to.be.closeTo(6, 1e-9);
    expect(faults(mesh(cubePoints, cubeFaces))).to.deep.equal([0, 0, 0, 0, 0, 0]);
  });

  it('of a torus is 0, of an open tube 0 with two rims, of a disc 1', () => {
    expect(topologyOf(grid(12, 8, true, true)).euler).to.equal(0);
    expect(faults(grid(12, 8, true, true))).to.deep.equal([0, 0, 0, 0, 0, 0]);
    const tube = topologyOf(grid(12, 8, true, false));
    expect([tube.euler, tube.openEdges.length]).to.deep.equal([0, 24]);
    const disc = topologyOf(grid(5, 4, false, false));
    expect([disc.euler, disc.openEdges.length]).to.deep.equal([1, 2 * (5 + 4)]);
  });

  it('finds what was planted, as often as it was', () => {
    const without = cubeFaces.slice(1);
    expect(faults(mesh(cubePoints, without)), 'a face taken away').to.deep.equal([4, 0, 0, 0, 0, 0]);
    const turned = [[...cubeFaces[0]].reverse(), ...cubeFaces.slice(1)];
    expect(faults(mesh(cubePoints, turned)), 'a face turned round').to.deep.equal([0, 0, 4, 0, 0, 0]);
    const twice = [...cubeFaces, [3, 2, 0, 1]];
    expect(faults(mesh(cubePoints, twice)), 'a face twice, from another corner').to.deep.equal([0, 0, 0, 0, 1, 0]);
    const fin = [...cubeFaces, [0, 1, 8]];
    expect(faults(mesh([...cubePoints, [0.5, -1, 0]], fin)), 'a fin on an edge').to.deep.equal([2, 1, 0, 0, 0, 0]);
    const flat = [...cubeFaces, [0, 1, 8]];
    expect(faults(mesh([...cubePoints, [0.5, 0, 0]], flat))[3], 'a face of no area').to.equal(1);
    expect(faults(mesh(cubePoints, [[0, 0, 1], [0, 1, 3, 2, 6]]))[3], 'a point twice').to.equal(1); // prettier-ignore
    expect(faults(mesh(cubePoints, [[0, 1, 3, 2, 6]]))[5], 'five corners').to.equal(1); // prettier-ignore
  });

  it('of a body inside out has its volume below nothing', () => {
    expect(
      topologyOf(
        mesh(
          cubePoints,
          cubeFaces.map((face) => [...face].reverse()),
        ),
      ).volume,
    ).to.be.closeTo(-6, 1e-9);
  });

  it('counts thin faces as faces: a millionth as wide as long has an area', () => {
    expect(faults(mesh([[0, 0, 0], [1, 0, 0], [1, 1e-6, 0]], [[0, 1, 2]]))[3]).to.equal(0); // prettier-ignore
  });
});
