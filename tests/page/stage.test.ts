/** Shapes of lights and cameras in the stage: as large as they are, along −Z, with their planes. */
import { expect } from 'chai';
import { defaultCamera, defaultLight } from '../../core/document/defaults.ts';
import { identity } from '../../core/data/transform.ts';
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
