/** Meshes mended: held against Euler's formula, the volume of known bodies, and rendered places. */
import { expect } from 'chai';
import {
  emptyPolyMesh,
  faceNormal,
  faceStarts,
  polygonsOf,
  trianglesOf,
  type PolyMesh,
} from '../../core/data/poly-mesh.ts';
import { multiply, rotationY, scaling, translation, type Transform } from '../../core/data/transform.ts';
import { carriedOut } from '../../core/geometry/mend/carry-transform.ts';
import { withHolesClosed } from '../../core/geometry/mend/close-holes.ts';
import { withFacesCut } from '../../core/geometry/mend/cut-faces.ts';
import { withoutFaces } from '../../core/geometry/mend/drop-faces.ts';
import { normalsOfTheirFaces } from '../../core/geometry/mend/normals.ts';
import { turnedOutwards } from '../../core/geometry/mend/turn-faces.ts';
import { topologyOf } from '../../core/geometry/topology.ts';
import { box } from '../../demo/shapes.ts';
import { joined } from '../../demo/ha-070/meshes.ts';
import { sphere } from './helpers.ts';
import { randomNumbers } from './size.ts';

const cube = (): PolyMesh => polygonsOf(box([0, 0, 0], [1, 1, 1]));
/** Corners of some faces in opposite order, normals as they are. */
function turned(poly: PolyMesh, faces: Iterable<number>): PolyMesh {
  const starts = faceStarts(poly);
  const corners = poly.corners.slice();
  const indices = poly.normals!.indices.slice();
  for (const f of faces) {
    corners.subarray(starts[f], starts[f] + poly.faceSizes[f]).reverse();
    indices.subarray(starts[f], starts[f] + poly.faceSizes[f]).reverse();
  }
  return { ...poly, corners, normals: { ...poly.normals!, indices } };
}
const againstFaces = (poly: PolyMesh): number => {
  const starts = faceStarts(poly);
  let n = 0;
  for (let f = 0; f < poly.faceSizes.length; f++) {
    const face = faceNormal(poly, starts[f], poly.faceSizes[f]);
    for (let k = starts[f]; k < starts[f] + poly.faceSizes[f]; k++) {
      const i = poly.normals!.indices[k] * 3;
      if (face.reduce((sum, v, a) => sum + v * poly.normals!.values[i + a], 0) < 0) n += 1;
    }
  }
  return n;
};

describe('mending meshes', () => {
  it('turns any faces of a body outwards again, whichever were turned: volume 6 × 1 m³, Euler 2', () => {
    const random = randomNumbers(7);
    for (let trial = 0; trial < 12; trial++) {
      const wrong = turned(
        cube(),
        [...Array(12).keys()].filter(() => random() < 0.5),
      );
      const right = turnedOutwards(wrong);
      const { volume, mixedEdges, euler } = topologyOf(right);
      expect([mixedEdges.length, euler], `trial ${trial}`).to.deep.equal([0, 2]);
      expect(volume).to.be.closeTo(6, 1e-6);
      expect(againstFaces(right)).to.equal(0);
    }
  });

  it('turns each of several bodies by itself, and leaves one that was right', () => {
    const two = polygonsOf(joined(box([0, 0, 0], [1, 1, 1]), box([3, 0, 0], [4, 2, 1])));
    const right = turnedOutwards(
      turned(
        two,
        Array.from({ length: 12 }, (_, f) => f),
      ),
    );
    expect(topologyOf(right).volume).to.be.closeTo(6 * 3, 1e-6);
    expect(turnedOutwards(two).corners).to.deep.equal(two.corners);
  });

  it('keeps the smooth normals of a sphere that was inside out: each still points away from its middle', () => {
    const ball = polygonsOf(sphere(1, 24));
    const wrong = turned(ball, ball.faceSizes.keys());
    const right = turnedOutwards(wrong);
    expect(topologyOf(right).volume).to.be.greaterThan(0);
    right.corners.forEach((point, k) => {
      const i = right.normals!.indices[k] * 3;
      for (let a = 0; a < 3; a++) expect(right.normals!.values[i + a]).to.be.closeTo(right.points[point * 3 + a], 2e-2);
    });
  });

  it('gives normals their length and their side, and a face’s own where there is none', () => {
    const poly = cube();
    const values = poly.normals!.values.slice();
    values.set([0, 0, 0], 0);
    values.set([NaN, 0, 1], 3);
    for (let i = 6; i < 18; i++) values[i] *= 3;
    for (let i = 30; i < 42; i++) values[i] *= -1;
    const right = normalsOfTheirFaces({ ...poly, normals: { ...poly.normals!, values } });
    expect(againstFaces(right)).to.equal(0);
    for (const i of right.normals!.indices)
      expect(Math.hypot(...right.normals!.values.subarray(i * 3, i * 3 + 3))).to.be.closeTo(1, 1e-6);
  });

  it('leaves faces out with their corners in every layer, and nothing else', () => {
    const poly = cube();
    const less = withoutFaces(poly, [0, 5]);
    expect([less.faceSizes.length, less.corners.length, less.normals!.indices.length, less.uvs[0].indices.length]).to.deep.equal([10, 30, 30, 30]); // prettier-ignore
    expect([...less.corners.slice(0, 3)]).to.deep.equal([...poly.corners.slice(3, 6)]);
  });

  it('closes a flat hole so that the body is closed and looks out of it; a hole that is not flat stays', () => {
    // A box without its top, and one whose rim is bent out of any plane.
    const open = withoutFaces(cube(), topFaces(cube()));
    expect(topologyOf(open).openEdges.length).to.equal(4);
    const closed = withHolesClosed(open);
    const { euler, openEdges, mixedEdges, volume } = topologyOf(closed);
    expect([euler, openEdges.length, mixedEdges.length]).to.deep.equal([2, 0, 0]);
    expect(volume).to.be.closeTo(6, 1e-6);
    expect(againstFaces(closed)).to.equal(0);
    const points = open.points.slice();
    const corner = [...points.keys()].find((i) => i % 3 === 1 && points[i] === 1)!;
    points[corner] = 1.4;
    expect(topologyOf(withHolesClosed({ ...open, points })).openEdges.length).to.equal(4);
  });

  it('cuts faces of many corners into n − 2 triangles of the same area, a hollow one too', () => {
    const outline = [[0, 0], [4, 0], [4, 3], [2, 1], [0, 3]]; // shoelace: 8
    const poly: PolyMesh = {
      ...emptyPolyMesh(),
      points: Float32Array.from(outline.flatMap(([x, y]) => [x, y, 0])),
      faceSizes: Uint32Array.of(5),
      corners: Uint32Array.of(0, 1, 2, 3, 4),
    };
    const cut = withFacesCut(poly);
    expect([...cut.faceSizes]).to.deep.equal([3, 3, 3]);
    const areas = [...faceStarts(cut)].map((start) => faceNormal(cut, start, 3)[2] / 2);
    expect(areas.every((area) => area > 0)).to.equal(true);
    expect(areas.reduce((a, b) => a + b)).to.be.closeTo(8, 1e-6);
  }); // prettier-ignore

  it('carries stretch, shear and mirroring into points: the same places, faces still looking outwards', () => {
    const shear: Transform = [1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    for (const m of [scaling(-1, 1, 1), scaling(2, 0.5, 3), shear, multiply(rotationY(30), multiply(shear, scaling(1, -2, 1)))]) {
      const whole = multiply(translation(5, 6, 7), m);
      const carried = carriedOut(cube(), whole);
      // Outwards, and of the volume that the determinant says (6 V = 6 |det|).
      const { volume } = topologyOf(carried);
      const det = m[0] * (m[5] * m[10] - m[9] * m[6]) - m[4] * (m[1] * m[10] - m[9] * m[2]) + m[8] * (m[1] * m[6] - m[5] * m[2]);
      expect(volume).to.be.closeTo(6 * Math.abs(det), 1e-5);
      expect(againstFaces(carried)).to.equal(0);
      const wanted = new Set(corners().map((p) => [0, 1, 2].map((a) => (m[a] * p[0] + m[4 + a] * p[1] + m[8 + a] * p[2]).toFixed(5) ).join(' ')).map(zeroed));
      const mesh = trianglesOf(carried);
      for (let i = 0; i < mesh.positions.length; i += 3)
        expect(wanted.has(zeroed([...mesh.positions.subarray(i, i + 3)].map((v) => v.toFixed(5)).join(' ')))).to.equal(true);
    }
  }); // prettier-ignore
});

const corners = () => Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, (i >> 2) & 1]);
const zeroed = (text: string) => text.replaceAll('-0.00000', '0.00000');
function topFaces(poly: PolyMesh): number[] {
  const starts = faceStarts(poly);
  return [...poly.faceSizes.keys()].filter((f) => faceNormal(poly, starts[f], 3)[1] > 0.5);
}
