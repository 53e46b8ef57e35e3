/** Subdivision: worked examples of the published rules, B-splines in closed form, Euler's number, and the six rules of UVs. */
import { expect } from 'chai';
import { emptyPolyMesh, faceStarts, trianglesOf, type PolyMesh } from '../../core/data/poly-mesh.ts';
import { BvhIntersector } from '../../core/geometry/intersector.ts';
import { CAMERA_RAY } from '../../core/geometry/ray-kinds.ts';
import { topologyOf } from '../../core/geometry/topology.ts';
import { subdivided, subdivisionCost } from '../../core/subdivision/subdivide.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import type { UvRule } from '../../core/data/subdivision-rules.ts';
import { defaultSheet } from '../../core/document/defaults.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { compiled, scene } from './helpers.ts';

const poly = (points: number[][], faces: number[][], more: Partial<PolyMesh> = {}): PolyMesh => ({
  ...emptyPolyMesh(),
  points: Float32Array.from(points.flat()),
  faceSizes: Uint32Array.from(faces, (face) => face.length),
  corners: Uint32Array.from(faces.flat()),
  subdivision: 'catmull-clark',
  ...more,
});
const CUBE_FACES = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // prettier-ignore
/** From −1 to 1; the last point is (1, 1, 1). */
const cube = (more: Partial<PolyMesh> = {}) => poly(Array.from({ length: 8 }, (_, i) => [i & 1 ? 1 : -1, i & 2 ? 1 : -1, i & 4 ? 1 : -1]), CUBE_FACES, more); // prettier-ignore
const CUBE_EDGES = [[0, 1], [2, 3], [4, 5], [6, 7], [0, 2], [1, 3], [4, 6], [5, 7], [0, 4], [1, 5], [2, 6], [3, 7]]; // prettier-ignore
const creased = (sharpness: number): Partial<PolyMesh> => ({ creases: { edges: Uint32Array.from(CUBE_EDGES.flat()), sharpness: new Float32Array(12).fill(sharpness) } }); // prettier-ignore
/** `n` × `n` quads over the unit square, raised by a function. */
function grid(n: number, height = (_x: number, _y: number) => 0, more: Partial<PolyMesh> = {}): PolyMesh {
  const at = (x: number, y: number) => y * (n + 1) + x;
  const points = Array.from({ length: (n + 1) ** 2 }, (_, i) => [(i % (n + 1)) / n, Math.floor(i / (n + 1)) / n, height(i % (n + 1), Math.floor(i / (n + 1)))]); // prettier-ignore
  const faces = Array.from({ length: n * n }, (_, i) => {
    const [x, y] = [i % n, Math.floor(i / n)];
    return [at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)];
  });
  return poly(points, faces, more);
}
const point = ({ points }: PolyMesh, p: number) => [...points.subarray(3 * p, 3 * p + 3)];
const near = (got: number[], wanted: number[], by = 1e-6) => {
  expect(got.length).to.equal(wanted.length);
  got.forEach((value, a) => expect(value, String(got)).to.be.closeTo(wanted[a], by));
};
/** The point of a mesh that is nearest to a place. */
function nearest(mesh: PolyMesh, to: number[]): number {
  let [best, least] = [0, Infinity];
  for (let p = 0; p < mesh.points.length / 3; p++) {
    const away = Math.hypot(...point(mesh, p).map((c, a) => c - to[a]));
    if (away < least) [best, least] = [p, away];
  }
  return best;
}
const normalAt = (mesh: PolyMesh, p: number) => {
  const n = mesh.normals!.indices[mesh.corners.indexOf(p)];
  return [...mesh.normals!.values.subarray(3 * n, 3 * n + 3)];
};

describe('subdivision', () => {
  it('of a cube once has its points at 5/9, 3/4 and 1 (Catmull & Clark 1978: faces, edges, (F + 2R + (n − 3)P)/n)', () => {
    const once = subdivided(cube(), { level: 1, toLimit: false });
    near(point(once, 7), [5 / 9, 5 / 9, 5 / 9]);
    near(point(once, nearest(once, [0.75, 0.75, 0])), [0.75, 0.75, 0]);
    near(point(once, nearest(once, [1, 0, 0])), [1, 0, 0]);
  });

  it('gives a quad for each corner, then four for each, and keeps Euler’s number', () => {
    const tube = poly(Array.from({ length: 16 }, (_, i) => [Math.cos((Math.PI / 2) * (i % 4)) * (2 + [1, 0, -1, 0][i >> 2]), Math.sin((Math.PI / 2) * (i % 4)) * (2 + [1, 0, -1, 0][i >> 2]), [0, 1, 0, -1][i >> 2]]), Array.from({ length: 16 }, (_, i) => { const [u, v] = [i % 4, i >> 2]; const at = (a: number, b: number) => (a % 4) + 4 * (b % 4); return [at(u, v), at(u + 1, v), at(u + 1, v + 1), at(u, v + 1)]; })); // prettier-ignore
    const pyramid = poly([[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0], [0, 0, 1]], [[0, 3, 2, 1], [0, 1, 4], [1, 2, 4], [2, 3, 4], [3, 0, 4]]); // prettier-ignore
    for (const [cage, corners, euler] of [
      [cube(), 24, 2],
      [tube, 64, 0],
      [pyramid, 16, 2],
      [grid(3), 36, 1],
    ] as const)
      // prettier-ignore
      for (const level of [1, 2, 3]) {
        const fine = subdivided(cage, { level });
        expect(fine.faceSizes.length).to.equal(corners * 4 ** (level - 1));
        expect(fine.faceSizes.length).to.equal(subdivisionCost(cage, level).faces);
        const edges = new Set<string>();
        for (let c = 0; c < fine.corners.length; c++) {
          const [a, b] = [fine.corners[c], fine.corners[(c & ~3) + ((c + 1) & 3)]];
          edges.add(`${Math.min(a, b)} ${Math.max(a, b)}`);
        }
        expect(fine.points.length / 3 - edges.size + fine.faceSizes.length).to.equal(euler);
        expect(topologyOf(fine).degenerate).to.have.length(0);
      }
  });

  it('ends on the same limit surface at every level, with its normals: the cube’s corner at 1/2 (Halstead, Kass & DeRose 1993)', () => {
    for (const level of [1, 2, 4]) {
      const fine = subdivided(cube(), { level });
      near(point(fine, 7), [0.5, 0.5, 0.5]);
      near(
        normalAt(fine, 7),
        [1, 1, 1].map((c) => c / Math.sqrt(3)),
      );
      const top = nearest(fine, [0, 0, 2]);
      near(normalAt(fine, top), [0, 0, 1]);
    }
  });

  it('of a regular grid is the uniform cubic B-spline, in places and normals', () => {
    const height = (x: number, y: number) => Math.sin(1.3 * x) + 0.4 * y * y;
    const fine = subdivided(grid(6, height), { level: 2 });
    // Basis of four neighbours and its derivative, by the textbook.
    const basis = (t: number) => [(1 - t) ** 3, 3 * t ** 3 - 6 * t ** 2 + 4, -3 * t ** 3 + 3 * t ** 2 + 3 * t + 1, t ** 3].map((b) => b / 6); // prettier-ignore
    const slope = (t: number) =>
      [-((1 - t) ** 2), 3 * t ** 2 - 4 * t, -3 * t ** 2 + 2 * t + 1, t ** 2].map((b) => b / 2);
    const sum = (bx: number[], by: number[], i: number, j: number) => bx.reduce((all, wx, a) => all + by.reduce((part, wy, b) => part + wx * wy * height(i - 1 + a, j - 1 + b), 0), 0); // prettier-ignore
    for (const [i, j, u, v] of [
      [2, 2, 0, 0],
      [2, 3, 0.25, 0.5],
      [3, 2, 0.75, 0.25],
    ]) {
      // prettier-ignore
      const p = nearest(fine, [(i + u) / 6, (j + v) / 6, sum(basis(u), basis(v), i, j)]);
      near(point(fine, p), [(i + u) / 6, (j + v) / 6, sum(basis(u), basis(v), i, j)], 1e-6);
      const [dx, dy] = [6 * sum(slope(u), basis(v), i, j), 6 * sum(basis(u), slope(v), i, j)];
      near(
        normalAt(fine, p),
        [-dx, -dy, 1].map((c) => c / Math.hypot(dx, dy, 1)),
        1e-5,
      );
    }
  });

  it('holds the boundary by three rules: a curve, its corners as well, or the faces left out', () => {
    const quad = grid(1);
    near(point(subdivided(quad, { level: 3 }), 0), [0, 0, 0]);
    near(point(subdivided(quad, { level: 1, boundary: 'edgeOnly', toLimit: false }), 0), [1 / 8, 1 / 8, 0]);
    // The limit of a cubic B-spline at a knot: (1 4 1)/6.
    near(point(subdivided(quad, { level: 3, boundary: 'edgeOnly' }), 0), [1 / 6, 1 / 6, 0]);
    const inner = subdivided(grid(3), { level: 2, boundary: 'none' });
    expect([...new Set(inner.faceOf)]).to.deep.equal([4]);
    expect(inner.faceSizes.length).to.equal(16);
  });

  it('keeps what is endlessly sharp, and softens the rest level by level (DeRose, Kass & Truong 1998)', () => {
    const box = subdivided(cube(creased(10)), { level: 3 });
    for (let p = 0; p < box.points.length / 3; p++)
      expect(Math.max(...point(box, p).map(Math.abs))).to.be.closeTo(1, 1e-6);
    near(point(box, 7), [1, 1, 1]);
    // A normal for each of the sides that meet there.
    const atCorner = new Set(
      [...box.corners.keys()].filter((c) => box.corners[c] === 7).map((c) => box.normals!.indices[c]),
    );
    expect(atCorner.size).to.equal(3);
    // By 1 the first level is that of a box, and the smooth rules follow: its corner moves to 5/9 of the way.
    const [one, plain] = [1, 0].map((sharpness) => subdivided(cube(creased(sharpness)), { level: 1, toLimit: false }));
    near(point(one, 7), [1, 1, 1]);
    // By a half every point is midway between both rules.
    const half = subdivided(cube(creased(0.5)), { level: 1, toLimit: false });
    for (const p of [7, nearest(one, [1, 1, 0]), nearest(one, [1, 0, 0])]) near(point(half, p), point(one, p).map((c, a) => (c + point(plain, p)[a]) / 2)); // prettier-ignore
    // A crease of four edges around a face is a B-spline of its own: its corner goes to (1 4 1)/6 in the limit.
    const rim = {
      creases: { edges: Uint32Array.from([4, 5, 5, 7, 7, 6, 6, 4]), sharpness: new Float32Array(4).fill(10) },
    };
    near(point(subdivided(cube(rim), { level: 3 }), 7), [2 / 3, 2 / 3, 1]);
  });

  describe('of UVs', () => {
    /** Two islands of 2 × 1 quads over a grid of 2 × 2, parted along its middle; drawn as two squares. */
    const islands = (more: Partial<PolyMesh> = {}) => {
      const mesh = grid(2);
      const starts = faceStarts(mesh);
      const values: number[] = [];
      const indices = new Uint32Array(mesh.corners.length);
      const known = new Map<string, number>();
      mesh.faceSizes.forEach((_, f) => {
        const island = f >> 1;
        for (let k = 0; k < 4; k++) {
          const [x, y] = point(mesh, mesh.corners[starts[f] + k]);
          const key = `${island} ${x} ${y}`;
          if (!known.has(key)) known.set(key, values.push(x, y + island * 2) / 2 - 1);
          indices[starts[f] + k] = known.get(key)!;
        }
      });
      return { ...mesh, uvs: [{ name: 'st', values: Float32Array.from(values), indices }], ...more };
    };
    /** UV of a face's corner at a point of the cage. */
    const uvAt = (mesh: ReturnType<typeof subdivided>, face: number, cagePoint: number) => {
      const c = [...mesh.corners.keys()].find((k) => mesh.corners[k] === cagePoint && mesh.faceOf[k >> 2] === face)!;
      const i = mesh.uvs[0].indices[c];
      return [...mesh.uvs[0].values.subarray(2 * i, 2 * i + 2)];
    };
    const by = (mesh: PolyMesh, uvRule: UvRule, level = 1) => subdivided(mesh, { level, uvRule, toLimit: false });

    it('round the corners of islands by one rule, and hold them by the others', () => {
      // The first island's corner at (0, 0): (1 6 1)/8 of its border, which has neighbours at (½, 0) and (0, ½).
      near(uvAt(by(islands(), 'none'), 0, 0), [1 / 16, 1 / 16]);
      for (const rule of ['cornersOnly', 'cornersPlus1', 'cornersPlus2', 'boundaries', 'all'] as const)
        near(uvAt(by(islands(), rule), 0, 0), [0, 0]);
    });

    it('keep islands parted and their straight borders straight, to any level', () => {
      for (const rule of ['cornersOnly', 'boundaries'] as const) {
        const fine = by(islands(), rule, 3);
        for (let i = 0; i < fine.corners.length; i++) {
          const v = fine.uvs[0].values[2 * fine.uvs[0].indices[i] + 1];
          if (fine.faceOf[i >> 2] < 2) expect(v).to.be.within(-1e-6, 0.5 + 1e-6);
          else expect(v).to.be.within(2.5 - 1e-6, 3 + 1e-6);
        }
      }
    });

    /** A UV of its own for each island at each point; `islandOf` by face of a grid of `n`. */
    const cut = (
      n: number,
      islandOf: (x: number, y: number, point: number) => number,
      bend: (x: number, y: number) => [number, number],
    ) => {
      const mesh = grid(n);
      const values: number[] = [];
      const known = new Map<string, number>();
      const indices = Uint32Array.from(mesh.corners, (p, c) => {
        const f = c >> 2;
        const key = `${islandOf(f % n, Math.floor(f / n), p)} ${p}`;
        if (!known.has(key)) known.set(key, values.push(...bend(p % (n + 1), Math.floor(p / (n + 1)))) / 2 - 1);
        return known.get(key)!;
      });
      return { ...mesh, uvs: [{ name: 'st', values: Float32Array.from(values), indices }] };
    };

    it('hold where three islands meet by one more rule', () => {
      // Three islands meet at the middle of a grid of 4: left half, and two quarters on the right.
      const mesh = cut(
        4,
        (x, y) => (x < 2 ? 0 : y < 2 ? 1 : 2),
        (x, y) => [x + 0.1 * y * y, y + 0.1 * x * x],
      );
      const middle = 2 * 5 + 2;
      const at = [2 + 0.4, 2 + 0.4];
      expect(Math.hypot(...uvAt(by(mesh, 'cornersOnly'), 5, middle).map((c, a) => c - at[a]))).to.be.above(0.01);
      near(uvAt(by(mesh, 'cornersPlus1'), 5, middle), at);
      near(uvAt(by(mesh, 'cornersPlus2'), 5, middle), at);
    });

    it('hold hollow corners by two more', () => {
      // A quarter is an island of its own: the rest has a hollow corner at the middle.
      const small = cut(
        2,
        (x, y) => Number(x === 1 && y === 1),
        (x, y) => [x + 0.1 * y * y, y + 0.1 * x * x],
      );
      const middle = 1 * 3 + 1;
      // The island of one quad has a corner there, which is held; that of three is not, but by the second.
      expect(Math.hypot(...uvAt(by(small, 'cornersPlus1'), 0, middle).map((c) => c - 1.1))).to.be.above(0.01);
      near(uvAt(by(small, 'cornersPlus2'), 0, middle), [1.1, 1.1]);
      // Where a seam only bends, it is rounded by all but those that hold the whole border.
      const halves = cut(
        4,
        (x) => Number(x >= 2),
        (x, y) => [x + 0.1 * y * y, y],
      );
      near(uvAt(by(halves, 'cornersPlus2'), 5, 2 * 5 + 2), [2 + (0.1 * (1 + 6 * 4 + 9)) / 8, 2]);
      near(uvAt(by(halves, 'boundaries'), 5, 2 * 5 + 2), [2.4, 2]);
    });

    it('hold the end of a seam within an island by the same rule', () => {
      // A slit goes up to the middle: what borders it has the UV below the middle on both sides.
      const slit = cut(
        4,
        (x, _, p) => (p % 5 === 2 && p < 10 ? Number(x >= 2) : 0),
        (x, y) => [x + 0.1 * y * y, y + 0.1 * x * x],
      );
      const middle = 2 * 5 + 2;
      near(uvAt(by(slit, 'cornersPlus1'), 5, middle), [(6 * 2.4 + 2 * 2.1) / 8, (6 * 2.4 + 2 * 1.4) / 8]);
      near(uvAt(by(slit, 'cornersPlus2'), 5, middle), [2.4, 2.4]);
    });

    it('within an island follow the surface’s own rules', () => {
      const mesh = cut(
        4,
        () => 0,
        (x, y) => [x, y + 0.2 * x * x],
      );
      const raised = { ...mesh, points: mesh.points.map((c, i) => (i % 3 === 2 ? 0 : i % 3 === 0 ? 4 * c : 4 * c + 0.2 * (4 * mesh.points[i - 1]) ** 2)) }; // prettier-ignore
      for (const toLimit of [false, true]) {
        const fine = subdivided(raised, { level: 2, uvRule: 'cornersOnly', toLimit });
        for (let c = 0; c < fine.corners.length; c++) {
          const [x, y] = point(fine, fine.corners[c]);
          const i = fine.uvs[0].indices[c];
          near([...fine.uvs[0].values.subarray(2 * i, 2 * i + 2)], [x, y], 1e-5);
        }
      }
    });
  });

  describe('in a render', () => {
    const flat = trianglesOf({ ...cube(), normals: null });
    const mesh = { ...flat, polygons: { faces: [4, 6], subdivision: 'catmull-clark' as const, creases: [] } };
    const asked = (level: number) => ({ subdivision: { level, edgePixels: null as number | null, boundary: 'edgeAndCorner' as const, uvs: 'cornersPlus1' as const } }); // prettier-ignore

    it('is as deep as the object asks and the sheet lets it, made once for all that are alike, and met where the limit is', () => {
      const count = (most: number | null) => compiled(scene([{ mesh, object: asked(3) }, { mesh, object: asked(3) }], {}, { mostSubdivision: most })).geometry.meshes.map(({ indices }) => indices.length / 3); // prettier-ignore
      // Each of the scene's two meshes is its own: 24 quads, four times each level.
      expect(count(null)).to.deep.equal([768, 768]);
      expect(count(1)).to.deep.equal([48, 48]);
      expect(count(0)).to.deep.equal([12, 12]);
      const one = scene([{ mesh, object: asked(4) }]);
      const rays = new BvhIntersector(compiled(one).geometry);
      expect(rays.closest(1e-4, 1e-4, 10, 0, 0, -1, Infinity, CAMERA_RAY)).to.equal(true);
      // The middle of a face in the limit, by the mask of valence 4 on level 1: (16 · 1 + 4 · 4 · ¾ + 4 · 5/9) / 36.
      expect(10 - rays.t).to.be.closeTo((16 + 12 + 20 / 9) / 36, 1e-4);
    });

    it('of parts that were split by material is that of the whole: no crack, no edge in the normals, one level for all', () => {
      const whole = cube();
      // Three faces about a corner, and the other three: each part has corners of one face, which by itself it would hold.
      const halves = [[0, 1, 4], [2, 3, 5]].map((faces) => ({ ...trianglesOf(whole, Uint32Array.from(faces)), polygons: { faces: [4, 3], subdivision: 'catmull-clark' as const, creases: [] } }));
      const meshes = (areParts: boolean, subdivision = asked(3)) => {
        const test = scene(halves.map((half) => ({ mesh: half, object: subdivision })));
        Object.values(test.document.meshes).forEach((one, k) => Object.assign(one, { file: 'cube.glb', mesh: 0, primitive: areParts ? k : 0 }));
        return compiled(test).geometry.meshes;
      };
      const sorted = (parts: { positions: Float32Array }[]) => [...new Set(parts.flatMap(({ positions }) => Array.from({ length: positions.length / 3 }, (_, v) => Array.from(positions.subarray(3 * v, 3 * v + 3), (x) => x.toFixed(6)).join(' '))))].sort();
      const limit = sorted([trianglesOf(subdivided(whole, { level: 3 }))]);
      expect(sorted(meshes(true))).to.deep.equal(limit);
      expect(sorted(meshes(false))).to.not.deep.equal(limit);
      // Where both parts have a point, they have one normal there.
      const normals = new Map<string, string>();
      for (const { positions, normals: own } of meshes(true))
        for (let v = 0; v < positions.length / 3; v++) {
          const [at, normal] = [positions, own!].map((of) => Array.from(of.subarray(3 * v, 3 * v + 3), (x) => x.toFixed(5)).join(' ').replaceAll('-0.00000', '0.00000'));
          expect(normals.get(at) ?? normal, at).to.equal(normal);
          normals.set(at, normal);
        }
      const byPixels = meshes(true, { subdivision: { ...asked(6).subdivision, edgePixels: 4 } });
      expect(new Set(byPixels.map(({ indices }) => indices.length)).size).to.equal(1);
    }); // prettier-ignore

    it('comes in from a scene as parts of one mesh, which stay together', async () => {
      const text = `#usda 1.0\n(metersPerUnit = 1)
def Mesh "comb" {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (0, 1, 0), (1, 1, 0.5), (2, 1, 0), (0, 2, 0), (1, 2, 0), (2, 2, 0)]
  int[] faceVertexCounts = [4, 4, 4, 4]
  int[] faceVertexIndices = [0, 1, 4, 3, 1, 2, 5, 4, 3, 4, 7, 6, 4, 5, 8, 7]
  def GeomSubset "rim" { uniform token elementType = "face" int[] indices = [0, 1, 2] rel material:binding = </wax> }
  def GeomSubset "cell" { uniform token elementType = "face" int[] indices = [3] rel material:binding = </honey> }
}
def Material "wax" {}
def Material "honey" {}`;
      const files = filesInMemory(new Map([['comb.usda', new TextEncoder().encode(text)]]));
      const { document, files: made } = await toShot(await readScene('comb.usda', files));
      expect(Object.values(document.meshes).map(({ mesh, primitive }) => [mesh, primitive])).to.deep.equal([[0, 0], [0, 1]]); // prettier-ignore
      const assets = await loadAssets(document, async (path) => made.get(path) ?? null, 'comb');
      const { geometry } = compileScene(document, assets, { ...defaultSheet(), mostSubdivision: null });
      const points = geometry.meshes.map(({ positions }) => new Set(Array.from({ length: positions.length / 3 }, (_, v) => positions.subarray(3 * v, 3 * v + 3).join(' ')))); // prettier-ignore
      // Two sides of the single face lie along the others: four edges a side at level 2, nine points.
      expect([...points[1]].filter((point) => points[0].has(point))).to.have.length(9);
    });

    it('that would be too much is refused by name, before memory is taken', () => {
      const dense = { ...trianglesOf(grid(60)), polygons: { faces: [4, 3600], subdivision: 'catmull-clark' as const, creases: [] } }; // prettier-ignore
      expect(() => compiled(scene([{ mesh: dense, object: asked(8) }]))).to.throw(RangeError, /^\/objects\/.*\/subdivision: 235,929,600 faces at level 8, about \d+ GiB/); // prettier-ignore
    });

    it('holds sharp points as long as they are sharp, from a scene through its shot into the render', async () => {
      // A sharpness of 1 is the corner's rule for one level, and smooth from there: (n − 2)/n of itself, and what lies about it.
      const held = (sharpness: number) => subdivided({ ...cube(), sharpPoints: { points: Uint32Array.of(0), sharpness: Float32Array.of(sharpness) } }, { level: 2, toLimit: false }).points.slice(0, 3); // prettier-ignore
      const [corner] = [cube().points.slice(0, 3)];
      expect([...held(10)]).to.deep.equal([...corner]);
      const [none, one, two] = [0, 1, 2].map((sharpness) => Math.hypot(...held(sharpness)));
      expect(two).to.be.closeTo(Math.sqrt(3), 1e-6);
      expect([one > none, one < two]).to.deep.equal([true, true]);
      const text = `#usda 1.0\n(metersPerUnit = 1)
def Mesh "tent" {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (0, 1, 0), (1, 1, 0.5), (2, 1, 0), (0, 2, 0), (1, 2, 0), (2, 2, 0)]
  int[] faceVertexCounts = [4, 4, 4, 4]
  int[] faceVertexIndices = [0, 1, 4, 3, 1, 2, 5, 4, 3, 4, 7, 6, 4, 5, 8, 7]
  int[] cornerIndices = [4, 99]
  float[] cornerSharpnesses = [10, 10]
}`;
      const source = await readScene(
        'tent.usda',
        filesInMemory(new Map([['tent.usda', new TextEncoder().encode(text)]])),
      );
      expect(source.notUnderstood.map(({ what }) => what).join()).to.match(/1 of 2 sharp corners name no point/);
      const { document, files } = await toShot(source);
      const assets = await loadAssets(document, async (path) => files.get(path) ?? null, 'tent');
      const { geometry } = compileScene(document, assets, defaultSheet());
      // The top of the tent stays where it is; a smooth one sinks to ¾ of it and less.
      expect(Math.max(...geometry.meshes[0].positions.filter((_, i) => i % 3 === 2))).to.equal(0.5);
    });

    it('comes in with a scene: its scheme, creases and rules, two levels deep', async () => {
      const text = `#usda 1.0\n(metersPerUnit = 1)
def Mesh "comb" {
  point3f[] points = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (0, 1, 0), (1, 1, 0), (2, 1, 0)]
  int[] faceVertexCounts = [4, 4]
  int[] faceVertexIndices = [0, 1, 4, 3, 1, 2, 5, 4]
  uniform token interpolateBoundary = "edgeOnly"
  uniform token faceVaryingLinearInterpolation = "boundaries"
}`;
      const files = filesInMemory(new Map([['comb.usda', new TextEncoder().encode(text)]]));
      const { document } = await toShot(await readScene('comb.usda', files));
      expect(Object.values(document.objects)[0].subdivision).to.deep.equal({ level: 2, edgePixels: null, boundary: 'edgeOnly', uvs: 'boundaries' }); // prettier-ignore
    });
  });

  it('of what makes no sense is refused, or goes by published rules', () => {
    expect(() => subdivided(cube({ subdivision: 'loop' }), { level: 1 })).to.throw(RangeError, /Loop/);
    expect(() => subdivided(cube(), { level: 1.5 })).to.throw(RangeError, /whole number/);
    expect(() => subdivided(grid(1), { level: 1, boundary: 'none' })).to.throw(
      RangeError,
      /every face is at the boundary/,
    );
    const million = { ...emptyPolyMesh(), subdivision: 'catmull-clark' as const, faceSizes: new Uint32Array(1e6).fill(4), corners: new Uint32Array(4e6), points: new Float32Array(3) }; // prettier-ignore
    const before = process.memoryUsage().arrayBuffers;
    expect(() => subdivided(million, { level: 12 })).to.throw(
      RangeError,
      /16,777,216,000,000 faces at level 12, about \d+ GiB/,
    );
    expect(process.memoryUsage().arrayBuffers - before).to.be.below(1e6);
    // Three faces at one edge: it is held as a boundary is, and nothing is a number that is none.
    const fin = poly([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [1, 0, 1], [0, 0, 1], [0, -1, 0], [1, -1, 0]], [[0, 1, 2, 3], [1, 0, 5, 4], [1, 0, 6, 7]]); // prettier-ignore
    const fine = subdivided(fin, { level: 2 });
    expect(fine.points.every(Number.isFinite) && fine.normals!.values.every(Number.isFinite)).to.equal(true);
    near(point(fine, nearest(fine, [0.5, 0, 0])), [0.5, 0, 0]);
    expect(subdivided(cube(), { level: 0 }).faceSizes.length).to.equal(6);
    const bilinear = subdivided(cube({ subdivision: 'bilinear' }), { level: 2 });
    near(point(bilinear, 7), [1, 1, 1]);
  });
});
