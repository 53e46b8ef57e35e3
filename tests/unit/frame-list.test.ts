/** Frames as people name them, frames worth rendering, and how images that come in are read. */
import { expect } from 'chai';
import { rotationY, translation } from '../../core/data/transform.ts';
import { proposeColourSpace } from '../../core/textures/colour-space.ts';
import { proposedFrames, readFrames, tellFrames } from '../../core/render/frame/frame-list.ts';
import { scene, sphere } from './helpers.ts';

describe('frames', () => {
  it('are read from lists, ranges and steps, each once and in order', () => {
    expect(readFrames('1001-1003, 1010')).to.deep.equal({ frames: [1001, 1002, 1003, 1010] });
    expect(readFrames('10-40x10 5;20')).to.deep.equal({ frames: [5, 10, 20, 30, 40] });
    expect(readFrames('-2-1')).to.deep.equal({ frames: [-2, -1, 0, 1] });
    expect(tellFrames([1001, 1002, 1003, 1010])).to.equal('1001-1003, 1010');
  });

  for (const [text, problem] of [
    ['', /at least one/],
    ['10-5', /ends before it begins/],
    ['a', /“a” is neither a frame/],
    ['1-9x0', /step of 0/],
    ['1-1000', /more than the 500/],
    ['99999999', /outside/],
  ] as const)
    it(`that are none are told: “${text}”`, () => expect((readFrames(text) as { problem: string }).problem).to.match(problem)); // prettier-ignore

  it('are proposed where things move: start, middle, end, and the fastest step', () => {
    const still = scene([{ mesh: sphere(1) }]).document;
    expect(proposedFrames(still)).to.have.length(1);
    const keys = [
      { frame: 10, transform: translation(0, 0, 0), mesh: null },
      { frame: 20, transform: translation(1, 0, 0), mesh: null },
      { frame: 22, transform: translation(5, 0, 0), mesh: null },
      { frame: 30, transform: rotationY(10), mesh: null },
    ];
    const [ends, fastest, all] = proposedFrames(scene([{ mesh: sphere(1), object: { motion: 'transform', keys } }]).document); // prettier-ignore
    expect(ends.frames).to.deep.equal([10, 20, 30]);
    expect(fastest.frames).to.deep.equal([20, 21]);
    expect(all.frames).to.have.length(21);
  });
});

describe('the colour space of an image', () => {
  const png = { kind: 'PNG', bits: 8 } as const;
  it('is proposed by what it is and what it is called, with the reason', () => {
    expect(proposeColourSpace('sky.exr', { kind: 'OpenEXR', bits: 16 }).colourSpace).to.equal('linear');
    expect(proposeColourSpace('crate_rough.png', png)).to.deep.equal({ colourSpace: 'linear', why: '“rough” in its name says that it is data' }); // prettier-ignore
    expect(proposeColourSpace('crateNormal.png', png).colourSpace).to.equal('linear');
    for (const name of ['label.png', 'roughcast wall.png', 'spectrum.jpg', 'masked-bee.png'])
      expect(proposeColourSpace(name, png).colourSpace, name).to.equal('srgb');
  });
});
