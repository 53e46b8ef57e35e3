/** What a viewer shows of linear values, against the formulas of the standards and published matrices. */
import { expect } from 'chai';
import { layersOf } from '../../core/formats/layers.ts';
import { layerLook } from '../../core/picture/layer-look.ts';
import { displayTable, entryOf, PLAIN_LOOK, type Look } from '../../core/picture/look.ts';
import { gather, paintColour, placed, stopColour } from '../../core/picture/paint.ts';
import { levelFor, Pyramid } from '../../core/picture/pyramid.ts';
import { SPACES, spaceOf, times, toRec709 } from '../../core/picture/spaces.ts';
import { TRANSFORMS } from '../../core/picture/transforms/registry.ts';
import { randomNumbers } from './size.ts';

describe('view transforms', () => {
  it('have the values of their standards', () => {
    expect(TRANSFORMS.srgb.display(0.214041), 'IEC 61966-2-1').to.be.closeTo(0.5, 1e-5);
    // ITU-R BT.709-6: 4.5 L below 0.018, 1.099 L^0.45 − 0.099 above.
    expect(TRANSFORMS.rec709.display(0.01)).to.be.closeTo(0.045, 1e-9);
    expect(TRANSFORMS.rec709.display(0.18)).to.be.closeTo(0.409008, 1e-5);
    expect(TRANSFORMS.rec709.display(1)).to.be.closeTo(1, 1e-12);
    expect(TRANSFORMS.none.display(0.3)).to.equal(0.3);
  });

  it('bring white to white at 11.2 by half, by Hable’s own constants', () => {
    expect(TRANSFORMS.filmic.display(0)).to.be.closeTo(0, 1e-6);
    // His curve is applied to twice the value and divided by itself at 11.2.
    expect(TRANSFORMS.filmic.display(5.6)).to.be.closeTo(1, 1e-12);
    // Worked by hand: x = 2: (2 · (0.3 + 0.05) + 0.004) / (2 · (0.3 + 0.5) + 0.06) − 1/15 = 0.357430; at 11.2: 0.726476.
    expect(TRANSFORMS.filmic.display(1)).to.be.closeTo((0.35743 / 0.725) ** (1 / 2.2), 2e-3);
  });

  it('come out of a table as the formula rounds, for every exposure and gamma', () => {
    const random = randomNumbers(4);
    const value = new Float32Array(1);
    const bits = new Int32Array(value.buffer);
    for (const id of Object.keys(TRANSFORMS) as (keyof typeof TRANSFORMS)[])
      for (const gamma of [0.5, 1, 1.25, 3]) {
        const table = displayTable(id, gamma);
        for (let i = 0; i < 4000; i++) {
          value[0] = 2 ** (random() * 24 - 16);
          const exact = 255 * Math.min(1, TRANSFORMS[id].display(value[0])) ** (1 / gamma);
          expect(Math.abs(table[entryOf(bits[0])] - exact), `${id} ${gamma} ${value[0]}`).to.be.below(0.6);
        }
        value[0] = -3;
        expect(table[entryOf(bits[0])], 'below 0 is black').to.equal(0);
        value[0] = 1e30;
        expect(table[entryOf(bits[0])], 'far above is the curve’s end').to.be.greaterThan(254);
      }
  });
});

describe('spaces', () => {
  it('go to Rec.709 by the published matrices', () => {
    // ACEScg with Bradford, to four digits as the ACES project publishes it (ACES TB-2014-004's primaries).
    const published = [1.7051, -0.6218, -0.0833, -0.1303, 1.1408, -0.0105, -0.024, -0.129, 1.153];
    toRec709(SPACES.acescg.chromaticities).forEach((v, i) => expect(v).to.be.closeTo(published[i], 6e-4));
    // ITU-R BT.2087-0: Rec.2020 to Rec.709.
    const bt2087 = [1.6605, -0.5876, -0.0728, -0.1246, 1.1329, -0.0083, -0.0182, -0.1006, 1.1187];
    toRec709(SPACES.rec2020.chromaticities).forEach((v, i) => expect(v).to.be.closeTo(bt2087[i], 2e-4));
  });

  it('leave white white, and are known by their chromaticities', () => {
    for (const [id, { chromaticities }] of Object.entries(SPACES)) {
      for (const v of times(toRec709(chromaticities), [1, 1, 1])) expect(v, id).to.be.closeTo(1, 1e-9);
      expect(spaceOf(chromaticities.map(Math.fround))).to.equal(id);
    }
    expect(spaceOf([0.6, 0.3, 0.2, 0.5, 0.1, 0.1, 0.3, 0.3])).to.equal(null);
  });
});

describe('a screen of a picture', () => {
  const paint = (colours: number[][], look: Partial<Look> = {}, alpha: number[] | null = null) => {
    const out = new Uint8ClampedArray(colours.length * 4);
    const planes = [0, 1, 2].map((c) => Float32Array.from(colours, (colour) => colour[c]));
    paintColour(planes, alpha, { width: colours.length, height: 1 }, { ...PLAIN_LOOK, ...look }, out);
    return Array.from({ length: colours.length }, (_, i) => [...out.subarray(i * 4, i * 4 + 3)]);
  };

  it('adds stops by doubling, and an offset after them', () => {
    const [[plain], [brighter], [lifted]] = [paint([[0.05, 0, 0]]), paint([[0.05, 0, 0]], { exposure: 2 }), paint([[0.05, 0, 0]], { exposure: 1, offset: 0.1 })]; // prettier-ignore
    const srgb = (v: number) => Math.round(255 * TRANSFORMS.srgb.display(v));
    expect([plain[0], brighter[0], lifted[0]]).to.deep.equal([srgb(0.05), srgb(0.2), srgb(0.2)]);
  });

  it('shows one channel alone as grey, and luminance by Rec.709’s weights', () => {
    const colour = [[0.1, 0.4, 0.02]];
    const grey = (v: number) => new Array<number>(3).fill(Math.round(255 * TRANSFORMS.srgb.display(v)));
    expect(paint(colour, { solo: 'green' })).to.deep.equal([grey(0.4)]);
    expect(paint(colour, { solo: 'luminance' })).to.deep.equal([grey(0.2126 * 0.1 + 0.7152 * 0.4 + 0.0722 * 0.02)]);
    expect(paint(colour, { solo: 'alpha' }, [0.5])).to.deep.equal([grey(0.5)]);
  });

  it('marks what is no number, what clips and what is below 0 apart', () => {
    const [nan, white, below, plain] = paint([[NaN, 1, 1], [2, 0.1, 0.1], [0.1, -0.5, 0.1], [0.1, 0.1, 0.1]], { marks: true }); // prettier-ignore
    expect(nan).to.deep.equal([255, 0, 255]);
    expect(white).to.deep.equal([255, 122, 64]);
    expect(below).to.deep.equal([86, 150, 255]);
    expect(new Set(plain).size, 'a plain pixel keeps its grey').to.equal(1);
  });

  it('shows luminance in whole stops from middle grey', () => {
    const at = (stop: number) => paint([[0.18 * 2 ** stop, 0.18 * 2 ** stop, 0.18 * 2 ** stop]], { isInStops: true })[0]; // prettier-ignore
    for (const stop of [-5, -1, 0, 3]) expect(at(stop)).to.deep.equal(stopColour(stop));
    expect(at(1)).to.not.deep.equal(at(2));
  });

  it('lays pixels that are not covered over what is behind', () => {
    const [open, half] = paint([[0, 0, 0], [0, 0, 0]], { behind: 'grey' }, [0, 0.5]); // prettier-ignore
    expect([open[0], half[0]]).to.deep.equal([118, 59]);
  });

  it('reads the pixels that are on screen, and a level of the pyramid when they are small', () => {
    const [width, height] = [64, 48];
    const plane = Float32Array.from({ length: width * height }, (_, i) => i % width);
    const near = placed({ width: 8, height: 4, scale: 2, aspect: 1, x: -20, y: -10 }, { x: 0, y: 0, width, height }, 0);
    expect([...gather(plane, near).subarray(0, 8)]).to.deep.equal([10, 10, 11, 11, 12, 12, 13, 13]);
    const level = levelFor(0.25);
    expect(level).to.equal(2);
    const far = placed({ width: 16, height: 12, scale: 0.25, aspect: 1, x: 0, y: 0 }, { x: 0, y: 0, width, height }, level); // prettier-ignore
    const pyramid = new Pyramid(plane, width, height, 'mean');
    expect([...gather(pyramid.level(level).plane, far).subarray(0, 3)]).to.deep.equal([1.5, 5.5, 9.5]);
  });

  it('stands where its data window stands, beside it there is nothing, and wide pixels are wide', () => {
    const window = { x: 3, y: 0, width: 2, height: 1 };
    const spot = placed({ width: 12, height: 1, scale: 1, aspect: 2, x: 0, y: 0 }, window, 0);
    expect([...spot.columns]).to.deep.equal([-1, -1, -1, -1, -1, -1, 0, 0, 1, 1, -1, -1]);
  });

  it('keeps a broken pixel visible from afar, and never mixes numbers that stand for something', () => {
    const plane = new Float32Array(64).fill(1);
    plane[9] = NaN;
    expect(new Pyramid(plane, 8, 8, 'mean').level(3).plane[0]).to.satisfy(Number.isNaN);
    const ids = Float32Array.from({ length: 64 }, (_, i) => (i % 2 ? 7 : 3));
    expect([...(new Pyramid(ids, 8, 8, 'first').level(1).plane as Float32Array)].every((id) => id === 3)).to.equal(
      true,
    );
  });
});

describe('layers', () => {
  const lookOf = (...names: string[]) => layerLook(layersOf(names)[0]);

  it('are shown as what they are, told by role, name and channels', () => {
    expect(lookOf('R', 'G', 'B', 'A')).to.deep.equal({ look: 'light', channels: ['R', 'G', 'B'] });
    expect(lookOf('N.X', 'N.Y', 'N.Z').look).to.equal('direction');
    expect(lookOf('normal.R', 'normal.G', 'normal.B').look).to.equal('direction');
    expect(lookOf('P.X', 'P.Y', 'P.Z').look).to.equal('place');
    expect(lookOf('uv.U', 'uv.V').look).to.equal('place');
    expect(lookOf('motion.X', 'motion.Y')).to.deep.equal({ look: 'flow', channels: ['motion.X', 'motion.Y'] });
    expect(lookOf('depth.Z')).to.deep.equal({ look: 'amount', channels: ['depth.Z'] });
    expect(lookOf('albedo.R', 'albedo.G', 'albedo.B').look).to.equal('light');
    expect(lookOf('crypto_object00.R', 'crypto_object00.G').look).to.equal('id');
    expect(lookOf('coverage').look).to.equal('share');
  });
});
