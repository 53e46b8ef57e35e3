/** Displacement: closed forms on planes, what seams do with values that agree and that differ, signed heights, normals. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { polygonsOf, trianglesOf } from '../../core/data/poly-mesh.ts';
import { translation } from '../../core/data/transform.ts';
import { defaultLight, defaultMap } from '../../core/document/defaults.ts';
import type { MaterialSpec, ObjectSpec } from '../../core/document/schema.ts';
import { topologyOf } from '../../core/geometry/topology.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, type TestScene } from './helpers.ts';

const fine = (level: number): Partial<ObjectSpec> => ({
  subdivision: { level, boundary: 'edgeAndCorner', uvs: 'all' },
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
});
