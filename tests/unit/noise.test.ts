/** Noise read off pictures, against noise that was put into them; what that comes to in samples. */
import { expect } from 'chai';
import { equalNoise, tellEqualNoise } from '../../core/picture/equal-noise.ts';
import { noiseModel, noiseOf, noisePlane, zoneOf } from '../../core/picture/noise.ts';
import { visibleGrain } from '../../core/data/grain.ts';
import { flickerOf, jumpsIn } from '../../core/picture/sequence/flicker.ts';
import { frameFigures } from '../../core/picture/sequence/frame-figures.ts';
import { frameOf, missingFrames } from '../../core/picture/sequence/names.ts';
import { randomNumbers } from './size.ts';

const [WIDTH, HEIGHT] = [240, 160];

/** Box and Muller's normal numbers. */
function normals(seed: number): () => number {
  const random = randomNumbers(seed);
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
function picture(of: (x: number, y: number) => number, sigma: number, seed = 1): Float32Array {
  const normal = normals(seed);
  return Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => of(i % WIDTH, Math.floor(i / WIDTH)) + sigma * normal()); // prettier-ignore
}
const scenes: Record<string, (x: number, y: number) => number> = {
  flat: () => 0.3,
  ramp: (x) => 0.1 + (0.6 * x) / WIDTH,
  edges: (x, y) => ((x >> 5) + (y >> 5)) % 2 ? 0.2 : 0.6, // prettier-ignore
  waves: (x, y) => 0.4 + 0.15 * Math.sin(x / 9) * Math.cos(y / 11),
};

describe('noise of a picture without an error pass', () => {
  for (const [name, scene] of Object.entries(scenes))
    for (const sigma of [0.002, 0.01, 0.05])
      it(`is found within 15 % of what was put in: ${name}, σ ${sigma}`, () => {
        const { all, isEstimated } = noiseOf(picture(scene, sigma), null, WIDTH, HEIGHT);
        expect(isEstimated).to.equal(true);
        expect(all.sigma / sigma).to.be.within(0.85, 1.15);
      });

  it('is told apart by brightness', () => {
    const normal = normals(3);
    const plane = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => (i % WIDTH < 120 ? 0.02 + 0.002 * normal() : 0.8 + 0.04 * normal())); // prettier-ignore
    const { zones } = noiseOf(plane, null, WIDTH, HEIGHT);
    expect(zones.shadows.sigma).to.be.closeTo(0.002, 0.0003);
    expect(zones.highlights.sigma).to.be.closeTo(0.04, 0.006);
    expect(zones.midtones.share).to.be.below(0.02);
    expect([0.01, 0.05, 0.5].map(zoneOf)).to.deep.equal([0, 1, 2]);
  });

  it('is told as the picture is where the boost blows it out', () => {
    const { all } = noiseOf(
      picture(() => 0.6, 0.09),
      null,
      WIDTH,
      HEIGHT,
    );
    expect(all.grain).to.be.below(0.5);
    // A bright wall whose display value moves by a dozen steps is not clean: the sRGB curve's slope at 0.6 is 0.58 (IEC 61966-2-1).
    expect(all.plain).to.be.closeTo(255 * 0.58 * 0.09, 2.5);
  });

  it('is not raised by a few fireflies, whose place is another figure', () => {
    const plane = picture(scenes.flat, 0.01);
    for (let k = 0; k < 40; k++) plane[(k * 997) % plane.length] = 60;
    expect(noiseModel(plane, WIDTH, HEIGHT)(0.3)).to.be.within(0.0085, 0.0115);
    expect(noisePlane(plane, WIDTH, HEIGHT)[5000]).to.be.within(0.0085, 0.0125);
  });

  it('says what can be said of pictures that are nothing, one colour or one pixel', () => {
    expect(noiseOf(new Float32Array(100).fill(NaN), null, 10, 10).all).to.deep.equal({
      share: 0,
      sigma: 0,
      typical: 0,
      grain: 0,
      plain: 0,
    });
    expect(noiseOf(new Float32Array(100).fill(0.4), null, 10, 10).all.sigma).to.equal(0);
    expect(noiseOf(Float32Array.of(0.4), null, 1, 1).all.sigma).to.equal(0);
  });
});

describe('noise of a picture that brings its error along', () => {
  it('is that error, in display steps with shadows boosted', () => {
    const y = new Float32Array(400).fill(0.1);
    const { all, isEstimated } = noiseOf(y, new Float32Array(400).fill(0.01), 20, 20);
    expect(isEstimated).to.equal(false);
    expect(all.sigma).to.be.closeTo(0.01, 1e-9);
    expect(all.grain).to.be.closeTo(visibleGrain(Math.fround(0.1), Math.fround(0.01)), 1e-9);
  });

  it('falls as 1/√N, which is read back as samples', () => {
    const of = (sigma: number, seed: number) => noiseOf(picture(scenes.ramp, sigma, seed), null, WIDTH, HEIGHT);
    const [found] = equalNoise(of(0.01, 1), of(0.02, 2), 64).filter(({ zone }) => zone === 'midtones');
    expect(found.factor).to.be.within(4 * 0.85, 4 * 1.15);
    expect(found.samples).to.equal(Math.ceil(64 * found.factor));
    expect(tellEqualNoise({ zone: 'shadows', factor: 4.1, samples: 263 }, 'A', 'B')).to.equal('B needs 4.10 × its samples (263) to be as clean as A in the shadows.'); // prettier-ignore
    expect(equalNoise(of(0.01, 1), of(0.01, 2), null).every(({ samples }) => samples === null)).to.equal(true);
  });
});

describe('a sequence', () => {
  it('is known by the number in its names', () => {
    expect(frameOf('lantern.1004.exr')).to.deep.equal({ stem: 'lantern.####.exr', frame: 1004 });
    expect(frameOf('lantern_00012.exr')).to.deep.equal({ stem: 'lantern_#####.exr', frame: 12 });
    expect(frameOf('shot010_v012.exr')).to.deep.equal({ stem: 'shot010_v012.exr', frame: null });
    expect(frameOf('beauty.exr')).to.deep.equal({ stem: 'beauty.exr', frame: null });
    expect(missingFrames([1001, 1004, 1002])).to.deep.equal([1003]);
  });

  it('finds single pixels that stick out, not lines, edges or wide lights', () => {
    const plane = picture(() => 0.1, 0.002);
    const planted = [[20, 20], [100, 40], [7, 150]]; // prettier-ignore
    for (const [x, y] of planted) plane[y * WIDTH + x] = 5;
    for (let y = 0; y < HEIGHT; y++) plane[y * WIDTH + 200] = 5;
    for (let y = 60; y < 70; y++) for (let x = 60; x < 70; x++) plane[y * WIDTH + x] = 8;
    expect(frameFigures(plane, null, WIDTH, HEIGHT).outliers).to.equal(planted.length);
  });

  it('boils where the grain is new in every frame, and does not where it stays', () => {
    const sigma = new Float32Array(WIDTH * HEIGHT).fill(0.02);
    const [a, b] = [picture(scenes.waves, 0.02, 1), picture(scenes.waves, 0.02, 2)];
    const boils = flickerOf(a, b, sigma, WIDTH, HEIGHT, null);
    // Var(a − b) = 2σ² for independent noise.
    expect(boils.temporal).to.be.closeTo(0.02, 0.001);
    expect(boils.boiling!).to.be.greaterThan(0.9);
    expect(boils.still).to.be.greaterThan(0.98);
    expect(flickerOf(a, a, sigma, WIDTH, HEIGHT, null)).to.include({ temporal: 0, boiling: 0, jump: 0 });
  });

  it('leaves out what moves, by motion or by what changed', () => {
    const sigma = new Float32Array(WIDTH * HEIGHT).fill(0.01);
    const at = (shift: number) => (x: number, y: number) => (x > 40 + shift && x < 120 + shift && y > 40 && y < 120 ? 0.8 : 0.2); // prettier-ignore
    const [a, b] = [picture(at(0), 0.01, 1), picture(at(30), 0.01, 2)];
    const found = flickerOf(a, b, sigma, WIDTH, HEIGHT, null);
    expect(found.temporal).to.be.closeTo(0.01, 0.001);
    expect(found.still).to.be.within(0.7, 0.92);
    const moves = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => (i % WIDTH > 35 && i % WIDTH < 155 ? 30 : 0));
    const told = flickerOf(a, b, sigma, WIDTH, HEIGHT, { x: moves, y: new Float32Array(moves.length) });
    expect(told.temporal).to.be.closeTo(0.01, 0.001);
  });

  it('tells the frame that jumps and not its neighbours, nor a slow rise', () => {
    const frames = (values: number[]) => values.map((shown, i) => ({ frame: 1001 + i, shown }));
    const rise = [1, 1.05, 1.1, 1.16, 1.22, 1.28, 1.34];
    expect(jumpsIn(frames(rise))).to.deep.equal([]);
    const jump = rise.map((v, i) => (i === 3 ? v * 1.5 : v));
    const found = jumpsIn(frames(jump));
    expect(found.map(({ frame }) => frame)).to.deep.equal([1004]);
    expect(found[0].stops).to.be.closeTo(Math.log2(1.5), 0.03);
    // Three tenths of a stop in one of five frames, wherever it stands.
    for (let k = 0; k < 5; k++) {
      const five = frames([1, 1, 1, 1, 1].map((v, i) => (i === k ? v * 2 ** 0.3 : v)));
      expect(jumpsIn(five).map(({ frame }) => frame)).to.deep.equal([1001 + k]);
    }
  });
});
