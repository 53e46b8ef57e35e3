/** Mattes by name, and what stands between two pictures: the Cryptomatte specification, MurmurHash3's known values. */
import { expect } from 'chai';
import { idOf, manifestAttributes, manifestsOf, matteOf, murmur3, namedAt } from '../../core/formats/cryptomatte.ts';
import { balanced, gainOf, isBalanced } from '../../core/picture/balance.ts';
import type { Colours } from '../../core/picture/compare.ts';
import { differencePlanes } from '../../core/picture/difference.ts';
import { hottest } from '../../core/picture/heat.ts';
import { resampled } from '../../core/picture/resample.ts';
import { tellBrightest } from '../../core/picture/tell-brightest.ts';
import { extend } from '../../core/render/path/signature.ts';

describe('mattes', () => {
  it('hash names as MurmurHash3 does (32 bits, seed 0; values of its reference implementation)', () => {
    expect(murmur3('')).to.equal(0);
    expect(murmur3('hello').toString(16)).to.equal('248bfa47');
    expect(murmur3('The quick brown fox jumps over the lazy dog').toString(16)).to.equal('2e4ff723');
  });

  it('keep ids as floats, as the specification’s example has it: hello is 6.0705627102400005616e-17', () => {
    expect(idOf('hello')).to.equal(Math.fround(6.0705627102400005616e-17));
  });

  it('are read by the names in the header, over all ranks', () => {
    const attributes = manifestAttributes('crypto_object', ['jar', 'lid']);
    const [set] = manifestsOf(attributes);
    expect([set.name, [...set.ids.keys()]]).to.deep.equal(['crypto_object', ['jar', 'lid']]);
    const [jar, lid] = ['jar', 'lid'].map(idOf);
    const planes = new Map([
      ['crypto_object00.R', Float32Array.of(jar, lid, 0)],
      ['crypto_object00.G', Float32Array.of(0.75, 1, 0)],
      ['crypto_object00.B', Float32Array.of(lid, 0, 0)],
      ['crypto_object00.A', Float32Array.of(0.25, 0, 0)],
    ]);
    const names = [...planes.keys()];
    expect([...matteOf(set, 'jar', planes, names)]).to.deep.equal([0.75, 0, 0]);
    expect([...matteOf(set, 'lid', planes, names)]).to.deep.equal([0.25, 1, 0]);
    expect([0, 1, 2].map((at) => namedAt(set, at, planes, names))).to.deep.equal(['jar', 'lid', null]);
    expect(() => matteOf(set, 'shelf', planes, names)).to.throw(RangeError, 'crypto_object names no "shelf"');
  });

  it('have no names where the manifest is broken', () => {
    expect(manifestsOf({ 'cryptomatte/ab12345/name': 'objects', 'cryptomatte/ab12345/manifest': '{"jar":' })[0].ids.size).to.equal(0); // prettier-ignore
  });
});

describe('light groups set against each other', () => {
  it('add up: each group as much more or less as its gain says', () => {
    const [sun, lamp] = [Float32Array.of(1, 2), Float32Array.of(0.5, 0.25)];
    const beauty = sun.map((v, i) => v + lamp[i]);
    const out = balanced(beauty, [{ plane: sun, gain: gainOf({ stops: -1, isMuted: false }) }, { plane: lamp, gain: gainOf({ stops: 0, isMuted: true }) }], new Float32Array(2)); // prettier-ignore
    expect([...out]).to.deep.equal([0.5, 1]);
    expect(isBalanced({ sun: { stops: 0, isMuted: false } })).to.equal(false);
  });
});

describe('pictures against each other', () => {
  const grey = (values: number[], x = 0, width = values.length): Colours => {
    const plane = Float32Array.from(values);
    return { x, y: 0, width, height: values.length / width, planes: [plane, plane, plane] };
  };

  it('differ in each channel, by share and in stops', () => {
    const [a, b] = [grey([1, 2, 0.5]), grey([2, 1, 0.5])];
    expect([...differencePlanes('absolute', a, b)[0]]).to.deep.equal([1, 1, 0]);
    expect([...differencePlanes('relative', a, b)[0]]).to.deep.equal([1, -0.5, 0]);
    const [stops] = differencePlanes('stops', a, b);
    expect([...stops].map((v) => +v.toFixed(3))).to.deep.equal([1, -1, 0]);
  });

  it('are laid over each other by their windows; where one has no pixel there is no difference', () => {
    const [plane] = differencePlanes('absolute', grey([1, 1, 1]), grey([3, 3], 1));
    expect([...plane].map((v) => (Number.isNaN(v) ? 'none' : v))).to.deep.equal(['none', 2, 2]);
  });

  it('of other sizes are resized to lie over each other, a ramp staying a ramp', () => {
    const ramp = grey(Array.from({ length: 8 }, (_, i) => i));
    expect([...resampled(ramp, 0.5).planes[0] as Float32Array]).to.deep.equal([0.5, 2.5, 4.5, 6.5]); // prettier-ignore
    expect([...resampled(ramp, 2).planes[0] as Float32Array].slice(2, 5)).to.deep.equal([0.75, 1.25, 1.75]); // prettier-ignore
    expect(resampled(ramp, 1).planes[0]).to.equal(ramp.planes[0]);
  });
});

describe('what a pixel or an object costs', () => {
  it('is told hottest first, by share of all cost', () => {
    const found = hottest([1, 1, 2, 0], [1, 3, 4, 0]);
    expect(found).to.deep.equal([{ id: 1, pixels: 2, share: 0.5, mean: 2 }, { id: 2, pixels: 1, share: 0.5, mean: 4 }, { id: 0, pixels: 1, share: 0, mean: 0 }]); // prettier-ignore
  });

  it('tells a brightest sample’s way as a sentence', () => {
    const names = { object: (id: number) => ['jar', 'back wall'][id - 1], light: () => 'window light' };
    const path = extend(extend(0, 2), 0);
    const values = { 'brightest.value': 9, 'brightest.path': path, 'brightest.light': 1, 'brightest.first': 1, 'brightest.second': 2 }; // prettier-ignore
    expect(tellBrightest(values, names)).to.equal('camera → jar, through → back wall, bounced → window light');
    expect(tellBrightest({ ...values, 'brightest.value': 0 }, names)).to.equal(null);
  });
});
