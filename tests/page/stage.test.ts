/** Shapes of lights and cameras in the stage: as large as they are, along −Z, with their planes. */
import { expect } from 'chai';
import { defaultCamera, defaultLight, defaultMap } from '../../core/document/defaults.ts';
import type { MapSpec } from '../../core/document/schema.ts';
import { identity } from '../../core/data/transform.ts';
import { mapImage, placed } from '../../web/stage/map-image.ts';
import { seamLines } from '../../web/stage/seam-lines.ts';
import { cameraLines, lightLines, reachLines, type Segments } from '../../web/stage/glyphs.ts';

const extent = (segments: Segments, axis: number): [number, number] => {
  const values = segments.filter((_, i) => i % 3 === axis);
  return [Math.min(...values), Math.max(...values)];
};

describe('shapes of the stage', () => {
  it('are as large as the light is, and lines come in pairs of ends', () => {
    const quad = lightLines({ ...defaultLight('rectangle'), width: 3, height: 1 }, 0.2);
    expect(extent(quad, 0)).to.deep.equal([-1.5, 1.5]);
    expect(extent(quad, 1)).to.deep.equal([-0.5, 0.5]);
    expect(extent(quad, 2)[0]).to.be.below(0);
    const ball = lightLines({ ...defaultLight('point'), radius: 2 }, 0.2);
    for (const axis of [0, 1, 2]) expect(extent(ball, axis)[1]).to.be.closeTo(2, 1e-9);
    for (const kind of ['point', 'spot', 'distant', 'rectangle', 'disc', 'mesh'] as const)
      expect(lightLines(defaultLight(kind), 1).length % 6, kind).to.equal(0);
    expect(lightLines(defaultLight('mesh'), 1)).to.deep.equal([]);
  });

  it('show a spot as wide as its cone, along −Z', () => {
    const spot = lightLines({ ...defaultLight('spot'), cone: 90 }, 1);
    const [far] = extent(spot, 2);
    // A full angle of 90° is as wide to each side as it is long.
    expect(extent(spot, 0)[1]).to.be.closeTo(-far, 1e-9);
  });

  it('show what a camera sees between its planes, and the plane in focus only where a lens has one', () => {
    const camera = { ...defaultCamera(), transform: identity(), fieldOfView: 90, near: 1, far: 10 };
    const seen = cameraLines(camera, 2, 1);
    expect(extent(seen, 2)).to.deep.equal([-10, 0]);
    expect(extent(seen, 1)[1]).to.be.closeTo(10, 1e-9);
    expect(extent(seen, 0)[1]).to.be.closeTo(20, 1e-9);
    const focused = cameraLines({ ...camera, fStop: 2, focusDistance: 4 }, 2, 1);
    expect(focused.length - seen.length).to.equal(4 * 6);
    expect(focused.filter((value, i) => i % 3 === 2 && value === -4)).to.have.length(8);
    expect(cameraLines({ ...camera, near: 0, far: null }, 1, 2).length).to.be.below(seen.length);
  });

  it('draw a reach as a ball of its radius', () => {
    for (const axis of [0, 1, 2]) expect(extent(reachLines(6), axis)[1]).to.be.closeTo(6, 1e-9);
  });
});

describe('surfaces of the stage', () => {
  /** Two quads that meet along x = 0 in vertices of their own, the right one moved up by `gap`. */
  const halves = (gap: number) => {
    const quad = (x: number, z: number) => [x, 0, z, x + 1, 0, z, x + 1, 1, z, x, 1, z];
    const before = Float32Array.from([...quad(-1, 0), ...quad(0, 0)]);
    return { before, positions: Float32Array.from([...quad(-1, 0), ...quad(0, gap)]), normals: null, uvs: new Float32Array(16), indices: Uint32Array.of(0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7) }; // prettier-ignore
  };

  it('have one line along a closed seam, and both sides with a rung at each end along an open one', () => {
    const closed = seamLines(halves(0));
    expect([closed.closed.length / 6, closed.open.length]).to.deep.equal([1, 0]);
    expect([...closed.closed].filter((_, i) => i % 3 === 0)).to.deep.equal([0, 0]);
    const open = seamLines(halves(0.25));
    expect([open.closed.length, open.open.length / 6]).to.deep.equal([0, 4]);
    expect(extent([...open.open], 2)).to.deep.equal([0, 0.25]);
    // A mesh that nothing moves has seams all the same.
    expect(seamLines({ ...halves(0), before: null }).closed.length / 6).to.equal(1);
  });

  it('show a map as it is placed, rows from the bottom, in sRGB, and what is no image as one', () => {
    const image = { ...defaultMap('image'), texture: 'print', scale: [2, 1] as [number, number], offset: [0.25, 0] as [number, number], wrap: 'mirror' as const }; // prettier-ignore
    const texture = { width: 1, height: 2, texels: Float32Array.of(1, 0, 0, 0, 0.2158605, NaN), alpha: Float32Array.of(1, 0.5) }; // prettier-ignore
    const shown = mapImage(image as MapSpec, texture)!;
    // IEC 61966-2-1: linear 0.2158605 is 128 of 255 in sRGB.
    expect([...shown.rgba]).to.deep.equal([0, 128, 0, 128, 255, 0, 0, 255]);
    expect(shown.wrap).to.equal('mirror');
    expect([...placed(Float32Array.of(0.5, 0.5), shown.place)]).to.deep.equal([1.25, 0.5]);
    const baked = mapImage(defaultMap('checker'), undefined)!;
    expect(new Set(baked.rgba).size).to.be.above(1);
    expect([mapImage(defaultMap('waves'), undefined), mapImage(image as MapSpec, undefined)]).to.deep.equal([
      null,
      null,
    ]);
  });
});
