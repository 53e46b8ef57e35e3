/** Displacement: closed forms on planes, what seams do with values that agree and that differ, signed heights, normals. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { polygonsOf, trianglesOf } from '../../core/data/poly-mesh.ts';
import { scaling, translation } from '../../core/data/transform.ts';
import { defaultLight, defaultMap } from '../../core/document/defaults.ts';
import type { MaterialSpec, ObjectSpec } from '../../core/document/schema.ts';
import { topologyOf } from '../../core/geometry/topology.ts';
import { channel } from '../../core/data/picture.ts';
import { levelOf, refinementOf } from '../../core/render/compile/refinement.ts';
import { box } from '../../demo/shapes.ts';
import { renderShot } from './bench-shot.ts';
import { compiled, meanOf, render, scene, type TestScene } from './helpers.ts';

const fine = (level: number): Partial<ObjectSpec> => ({
  subdivision: { level, edgePixels: null, boundary: 'edgeAndCorner', uvs: 'all' },
});
const ramp = { ...defaultMap('gradient'), axis: 'u' as const, stops: [{ at: 0, colour: [0, 0, 0] as [number, number, number] }, { at: 1, colour: [1, 1, 1] as [number, number, number] }] }; // prettier-ignore
/** One quad, 2 wide, with UVs from 0 to 1. */
const wall: Mesh = {
  positions: Float32Array.of(-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0),
  normals: null,
  uvs: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1),
  indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  polygons: { faces: [4, 1], subdivision: 'catmull-clark', creases: [] },
};
const moved = (
  material: Partial<MaterialSpec>,
  more: { mesh?: Mesh; object?: Partial<ObjectSpec> } = {},
): TestScene => {
  const test = scene([{ mesh: wall, object: fine(5), ...more, material: { displacementMap: 'relief', ...material } }]);
  test.document.maps.relief = ramp;
  return test;
};
const meshOf = (test: TestScene) => compiled(test).geometry.meshes[0];
/** A texture of single rows in place of the ramp. */
function image(test: TestScene, values: number[]): TestScene {
  test.document.textures.height = { file: 'height.exr', colourSpace: 'linear' };
  test.document.maps.relief = { ...defaultMap('image'), texture: 'height', filter: 'nearest' };
  const texels = Float32Array.from(values.flatMap((value) => [value, value, value]));
  test.assets.textures.set('height', { width: values.length, height: 1, texels, alpha: null });
  return test;
}

describe('displacement', () => {
  it('moves a plane by scale × (map − rest) along its normal, and not at all by 0', () => {
    const { positions, uvs, indices } = meshOf(moved({ displacementScale: 0.3, displacementRest: 0.25 }));
    expect(indices.length / 3).to.equal(2 * 4 ** 5);
    for (let v = 0; v < positions.length / 3; v++) expect(positions[3 * v + 2]).to.be.closeTo(0.3 * (uvs![2 * v] - 0.25), 1e-5); // prettier-ignore
    for (const material of [{ displacementScale: 0 }, { displacementMap: null }])
      expect(Math.max(...meshOf(moved(material)).positions.filter((_, i) => i % 3 === 2))).to.equal(0);
  });

  it('moves nothing beyond its bound, heights and vectors alike', () => {
    const heights = meshOf(moved({ displacementScale: 0.4, displacementRest: 0.5, displacementBound: 0.05 })).positions.filter((_, i) => i % 3 === 2); // prettier-ignore
    expect([Math.min(...heights), Math.max(...heights)].map((z) => +z.toFixed(6))).to.deep.equal([-0.05, 0.05]);
    const { positions, before } = meshOf(
      moved({ displacementKind: 'object', displacementScale: 1, displacementBound: 0.1 }),
    );
    const far = Math.max(...Array.from({ length: positions.length / 3 }, (_, v) => Math.hypot(...[0, 1, 2].map((a) => positions[3 * v + a] - before![3 * v + a])))); // prettier-ignore
    expect(far).to.be.closeTo(0.1, 1e-6);
  });

  it('turns normals as it turns the surface: a slope of s leans by atan s', () => {
    const { positions, normals } = meshOf(moved({ displacementScale: 0.8 }));
    // The square is 2 wide for one unit of U.
    const lean = [-0.4, 0, 1].map((part) => part / Math.hypot(0.4, 1));
    let checked = 0;
    for (let v = 0; v < positions.length / 3; v++) {
      if (Math.abs(positions[3 * v]) > 0.9) continue;
      for (let a = 0; a < 3; a++) expect(normals![3 * v + a]).to.be.closeTo(lean[a], 1e-3);
      checked += 1;
    }
    expect(checked).to.be.above(500);
  });

  it('goes both ways by a map of signed heights', () => {
    const { positions } = meshOf(image(moved({ displacementScale: 0.1 }), [-1, 1]));
    const heights = new Set([...positions].filter((_, i) => i % 3 === 2).map((z) => +z.toFixed(4)));
    expect([...heights].sort((a, b) => a - b)).to.deep.equal([-0.1, 0.1]);
  });

  it('takes heights that are no numbers for 0, and says how many of which texture', () => {
    const test = image(moved({ displacementScale: 0.1 }), [1, NaN]);
    const { geometry, warnings } = compiled(test);
    expect([...geometry.meshes[0].positions].every(Number.isFinite)).to.equal(true);
    expect(warnings.filter((one) => one.includes('"height"'))).to.deep.equal(['Texture "height" has 3 heights that are infinite or no numbers; they count as 0. Export it again, or fill them.']); // prettier-ignore
  });

  it('opens no seam whose sides have one value, and opens one by what its sides differ', () => {
    // A tube of two quads around: its seam, at U 0 and 1, reads both ends of the map.
    const tube = (): Mesh => {
      const n = 16;
      const ring = Array.from({ length: n + 1 }, (_, i) => (i % n) * ((2 * Math.PI) / n));
      const positions = ring.flatMap((a) => [-1, 1].flatMap((y) => [Math.cos(a), y, Math.sin(a)]));
      const normals = ring.flatMap((a) => [-1, 1].flatMap(() => [Math.cos(a), 0, Math.sin(a)]));
      const uvs = ring.flatMap((_, i) => [0, 1].flatMap((v) => [i / n, v]));
      const indices = Array.from({ length: n }, (_, i) => [0, 1, 2, 1, 3, 2].map((k) => 2 * i + k)).flat();
      return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), uvs: Float32Array.from(uvs), indices: Uint32Array.from(indices) }; // prettier-ignore
    };
    const edges = (test: TestScene) => topologyOf(polygonsOf(meshOf(test))).openEdges.length;
    const same = moved({ displacementScale: 0.2 }, { mesh: tube(), object: {} });
    same.document.maps.relief = { ...ramp, stops: [{ at: 0, colour: [0.4, 0.4, 0.4] }, { at: 0.5, colour: [1, 1, 1] }, { at: 1, colour: [0.401, 0.401, 0.401] }] }; // prettier-ignore
    const open = edges(moved({ displacementScale: 0.2 }, { mesh: tube(), object: {} })) - edges(same);
    // Normals that were written for each side, and differ in their last digits, open nothing.
    const loose = tube();
    loose.normals = loose.normals!.map((part, i) => part + (i % 7) * 1e-6);
    const joined = moved({ displacementScale: 0.2 }, { mesh: loose, object: {} });
    joined.document.maps.relief = same.document.maps.relief;
    expect(edges(joined)).to.equal(edges(same));
    // The seam is one edge of the tube: both of its sides are a boundary once it opens.
    expect(open).to.equal(2);
    const { positions } = meshOf(moved({ displacementScale: 0.2 }, { mesh: tube(), object: {} }));
    const last = positions.length - 6;
    expect(Math.hypot(positions[last] - positions[0], positions[last + 2] - positions[2])).to.be.closeTo(0.2, 1e-5);
  });

  it('of a body with normals that are split tears at its edges, as the input has it', () => {
    const flat = box([-1, -1, -1], [1, 1, 1]);
    const torn = moved({ displacementScale: 0.1, displacementRest: -1 }, { mesh: flat, object: {} });
    expect(topologyOf(polygonsOf(meshOf(torn))).openEdges.length).to.be.above(0);
    const smooth = trianglesOf({ ...polygonsOf({ ...flat, normals: null, uvs: null }), normals: null });
    const whole = moved({ displacementScale: 0.1 }, { mesh: smooth, object: {} });
    expect(topologyOf(polygonsOf(meshOf(whole))).openEdges.length).to.equal(0);
    expect(compiled(whole).warnings.join()).to.match(/Object "part0" has no UVs for its displacement map/);
  });

  it('is met where it is: a wall that comes nearer to a light is brighter by the square', () => {
    const lit = (scale: number) => {
      const test = image(moved({ displacementScale: scale, baseColour: [0.5, 0.5, 0.5] }, { object: fine(3) }), [1]);
      test.document.cameras.main.fieldOfView = 1;
      test.document.environment.intensity = 0;
      test.document.lights.bulb = { ...defaultLight('point'), transform: translation(0, 0, 4), intensity: 10 };
      return meanOf(render(test)).mean;
    };
    expect(lit(1) / lit(0)).to.be.closeTo((4 / 3) ** 2, 0.02);
  });

  describe('by vectors', () => {
    const vector = (test: TestScene, rgb: [number, number, number]): TestScene => {
      test.document.textures.way = { file: 'way.exr', colourSpace: 'linear' };
      test.document.maps.relief = { ...defaultMap('image'), texture: 'way' };
      test.assets.textures.set('way', { width: 1, height: 1, texels: Float32Array.from(rgb), alpha: null });
      return test;
    };
    const by = (test: TestScene) => [0, 1, 2].map((a) => meshOf(test).positions[a] - meshOf(test).before![a]);

    it('goes along U, V and the normal, however the UVs lie, and along the object’s axes', () => {
      const ways = {
        plain: [0, 0, 1, 0, 1, 1, 0, 1],
        turned: [0, 1, 0, 0, 1, 0, 1, 1],
        mirrored: [1, 0, 0, 0, 0, 1, 1, 1],
      };
      const told = Object.entries(ways).map(([, uvs]) => {
        const mesh = { ...wall, uvs: Float32Array.from(uvs) };
        return by(
          vector(moved({ displacementKind: 'tangent', displacementScale: 0.5 }, { mesh, object: {} }), [0.2, 0.4, 0.6]),
        );
      });
      // U and V run along X and Y; along Y and against X; against X and along Y.
      const right = [
        [0.1, 0.2, 0.3],
        [-0.2, 0.1, 0.3],
        [-0.1, 0.2, 0.3],
      ];
      told.forEach((way, k) =>
        way.forEach((part, a) => expect(part, `${Object.keys(ways)[k]} ${a}`).to.be.closeTo(right[k][a], 1e-6)),
      );
      const object = by(
        vector(
          moved({ displacementKind: 'object', displacementScale: 0.5, displacementRest: 0.5 }, { object: {} }),
          [0.2, 0.4, 0.6],
        ),
      );
      object.forEach((part, a) => expect(part).to.be.closeTo([-0.15, -0.05, 0.05][a], 1e-6));
    });

    it('turns a surface over, which no height does, and its normals with it', () => {
      const test = moved({ displacementKind: 'object', displacementScale: 1 });
      // x = 2u − 1 goes to x + 3(1 − u) = 2 − u: what was left is right.
      test.document.maps.relief = {
        ...ramp,
        stops: [
          { at: 0, colour: [3, 0, 0] },
          { at: 1, colour: [0, 0, 0] },
        ],
      };
      const { positions, uvs, normals } = meshOf(test);
      for (let v = 0; v < positions.length / 3; v++) {
        expect(positions[3 * v]).to.be.closeTo(2 - uvs![2 * v], 1e-5);
        expect(normals![3 * v + 2]).to.be.closeTo(-1, 1e-5);
      }
    });
  });

  describe('that is finer than its mesh', () => {
    /** A quad seen straight on, with a sine of eight waves across it. */
    const ripple = (detail: boolean, level: number, size = 1) => {
      const test = moved(
        { displacementScale: AMPLITUDE, displacementDetail: detail, roughness: 1 },
        { object: fine(level) },
      );
      const texels = Float32Array.from(
        { length: 3 * 1024 },
        (_, i) => 0.5 + 0.5 * Math.sin((2 * Math.PI * WAVES * (Math.floor(i / 3) + 0.5)) / 1024),
      );
      test.document.textures.height = { file: 'height.exr', colourSpace: 'linear' };
      test.document.maps.relief = { ...defaultMap('image'), texture: 'height', filter: 'bilinear' };
      test.assets.textures.set('height', { width: 1024, height: 1, texels, alpha: null });
      Object.assign(test.document.sheets.preview, { width: 64, height: 8, samples: 64 });
      test.document.cameras.main.fieldOfView = 4;
      test.document.objects.part0.transform = scaling(size, size, size);
      const picture = renderShot(test);
      return [0, 2].map((a) => channel(picture, `normal.${'XYZ'[a]}`).slice(4 * 64, 5 * 64));
    };
    const [AMPLITUDE, WAVES] = [0.02, 8];

    it('shades as the surface that it tells: normals of a sine by its derivative, on one quad and on many', () => {
      // h = A/2 sin(2π n u), u over 2 metres: the slope is A/2 · 2π n / 2 · cos.
      const most = (AMPLITUDE / 2) * Math.PI * WAVES;
      const steepest = most / Math.hypot(1, most);
      const widest = (of: Float32Array) => of.reduce((top, value) => Math.max(top, Math.abs(value)), 0);
      const [plain] = ripple(false, 0);
      expect(widest(plain)).to.be.below(1e-3);
      for (const level of [0, 2, 5])
        expect(widest(ripple(true, level)[0]), `level ${level}`).to.be.closeTo(steepest, 0.02);
      // An object that is larger has its heights scaled with it, so that slopes stay.
      expect(widest(ripple(true, 0, 3)[0])).to.be.closeTo(steepest, 0.02);
      // The same place by place as a mesh that is fine enough to have every slope.
      const [shaded] = ripple(true, 0);
      const [made] = ripple(false, 8);
      shaded.forEach((value, x) => expect(value, `pixel ${x}`).to.be.closeTo(made[x], 0.03));
    });

    it('says where it is not carried out: maps in the object’s space, and vectors', () => {
      const test = moved({ displacementScale: 0.1, displacementDetail: true });
      test.document.maps.relief = { ...defaultMap('noise-object') };
      expect(compiled(test).warnings.join()).to.match(/Material "part0" .*no bump/);
    });
  });
});

describe('levels by the length of edges', () => {
  it('are the fewest that bring every edge down to so many pixels, at any distance, and no more than are asked for', () => {
    const test = moved({});
    const { document, assets } = test;
    const sheet = { ...document.sheets.preview, width: 200, height: 100 };
    document.cameras.main.fieldOfView = 90;
    const levelAt = (distance: number, edgePixels: number | null, most: number | null = null) => {
      document.cameras.main.transform = translation(0, 0, distance);
      const object = { ...document.objects.part0, subdivision: { ...fine(6).subdivision!, edgePixels } };
      return levelOf(
        object,
        [assets.meshes.get(object.mesh!)!],
        object.transform,
        refinementOf(document, { ...sheet, mostSubdivision: most }),
      );
    };
    // Half the frame is as high as the camera is away: a metre has 50 pixels at a metre. A side of 2 m, from the nearest corner.
    const pixels = (distance: number) => (2 * 50) / Math.hypot(distance, 1, 1);
    for (const distance of [3, 10, 40])
      for (const longest of [1, 4])
        expect(levelAt(distance, longest), `${distance} ${longest}`).to.equal(
          Math.max(0, Math.ceil(Math.log2(pixels(distance) / longest))),
        );
    expect([levelAt(0.5, 0.5), levelAt(10, null), levelAt(0.5, 0.5, 2), levelAt(-10, 1)]).to.deep.equal([
      6,
      6,
      2,
      levelAt(10, 1),
    ]);
  });

  it('are made for the camera that looks, and others when it comes nearer', () => {
    const faces = (distance: number) => {
      const test = moved(
        { displacementScale: 0.1 },
        { object: { subdivision: { ...fine(6).subdivision!, edgePixels: 2 } } },
      );
      test.document.cameras.main.transform = translation(0, 0, distance);
      return meshOf(test).indices.length / 6;
    };
    expect(faces(5) / faces(20)).to.equal(16);
  });
});
