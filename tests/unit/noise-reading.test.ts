/**
 * Noise read in four ways, against noise that was put in, and against a general-purpose estimator: the median of the finest
 * diagonal wavelets over 0.6745 (Donoho & Johnstone, Ideal Spatial Adaptation by Wavelet Shrinkage, 1994), in Haar's.
 */
import { expect } from 'chai';
import { guideEdges } from '../../core/picture/guide-edges.ts';
import { noiseOf } from '../../core/picture/noise.ts';
import { readNoise, type NoiseSources } from '../../core/picture/noise-reading.ts';
import { randomNumbers } from './size.ts';

const [WIDTH, HEIGHT] = [240, 160];

function normals(seed: number): () => number {
  const random = randomNumbers(seed);
  // Box and Muller.
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
type Scene = (x: number, y: number) => number;
const plane = (of: Scene) =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => of(i % WIDTH, Math.floor(i / WIDTH)));
function noisy(of: Scene, sigma: number, seed: number): Float32Array {
  const normal = normals(seed);
  return plane(of).map((y) => y + sigma * normal());
}
const sources = (luminance: Float32Array, more: Partial<NoiseSources> = {}): NoiseSources => ({
  luminance,
  width: WIDTH,
  height: HEIGHT,
  sigma: null,
  halves: null,
  beside: [],
  guides: [],
  ...more,
});
function read(luminance: Float32Array, more: Partial<NoiseSources> = {}) {
  const from = sources(luminance, more);
  const reading = readNoise(from);
  return { ...reading, sigma: noiseOf(luminance, null, WIDTH, HEIGHT, reading.model).all.sigma };
}
/** Of 2 × 2 pixels the diagonal difference over 2, which has the deviation of the noise. */
function wavelets(y: ArrayLike<number>): number {
  const sizes: number[] = [];
  for (let v = 0; v + 1 < HEIGHT; v += 2)
    for (let u = 0; u + 1 < WIDTH; u += 2) {
      const i = v * WIDTH + u;
      sizes.push(Math.abs(y[i] - y[i + 1] - y[i + WIDTH] + y[i + WIDTH + 1]) / 2);
    }
  return Float64Array.from(sizes).sort()[sizes.length >> 1] / 0.6745;
}

const smooth: Record<string, Scene> = {
  flat: () => 0.3,
  waves: (x, y) => 0.4 + 0.15 * Math.sin(x / 9) * Math.cos(y / 11),
  edges: (x, y) => ((x >> 5) + (y >> 5)) % 2 ? 0.2 : 0.6, // prettier-ignore
};
/** A weave as fine as pixels, over five sixths of the picture. */
const isWoven = (x: number) => x >= 40;
const threads = Float32Array.from({ length: WIDTH * HEIGHT }, randomNumbers(99));
const weave: Scene = (x, y) => 0.3 * (isWoven(x) ? 0.8 + 0.4 * threads[y * WIDTH + x] : 1);

describe('noise read from pictures', () => {
  for (const [name, scene] of Object.entries(smooth))
    for (const sigma of [0.003, 0.02])
      it(`agrees with a general-purpose estimator where both are right: ${name}, σ ${sigma}`, () => {
        const y = noisy(scene, sigma, 1);
        expect(read(y).sigma / wavelets(y)).to.be.within(0.85, 1.15);
        expect(wavelets(y) / sigma).to.be.within(0.85, 1.15);
      });

  it('is within 15 % by a guide where texture as fine as a pixel leads both astray', () => {
    for (const sigma of [0.004, 0.01]) {
      const y = noisy(weave, sigma, 2);
      expect(wavelets(y) / sigma, 'general-purpose').to.be.above(1.5);
      expect(read(y).sigma / sigma, 'without').to.be.above(1.5);
      const guided = read(y, { guides: [plane(weave)] });
      expect(guided.sigma / sigma).to.be.within(0.85, 1.15);
      expect(guided.told).to.match(/where albedo, normal and depth are smooth/);
    }
  });

  it('does without guides where they have detail all over', () => {
    const busy = plane((x, y) => 0.2 + 0.2 * threads[y * WIDTH + x]);
    expect(guideEdges([busy], WIDTH, HEIGHT)).to.equal(null);
    expect(read(noisy(smooth.flat, 0.01, 3), { guides: [busy] }).told).to.match(/taken for noise/);
  });

  it('is measured by two halves, whatever the texture and however the noise is spread', () => {
    for (const sigma of [0.004, 0.05]) {
      const halves: [Float32Array, Float32Array] = [noisy(weave, sigma, 4), noisy(weave, sigma, 5)];
      const mean = halves[0].map((y, i) => (y + halves[1][i]) / 2);
      const { method, sigma: found } = read(mean, { halves });
      expect(method).to.equal('half-sample renders');
      // Of the mean of two.
      expect((found * Math.SQRT2) / sigma).to.be.within(0.95, 1.05);
    }
    // Light that is found by chance: in a tenth of the pixels ten times as much, deviation 0.03 for a mean of 0.01.
    const random = randomNumbers(6);
    const chance = () => plane(() => (random() < 0.1 ? 0.1 : 0));
    const halves: [Float32Array, Float32Array] = [chance(), chance()];
    const { sigma: found } = read(halves[0].map((y, i) => (y + halves[1][i]) / 2), { halves }); // prettier-ignore
    expect((found * Math.SQRT2) / 0.03).to.be.within(0.85, 1.15);
  });

  it('is read by the frames beside it where nothing moves, texture or not', () => {
    const [before, now, after] = [7, 8, 9].map((seed) => noisy(weave, 0.01, seed));
    for (const beside of [[before, after], [before]]) {
      const reading = read(now, { beside });
      expect(reading.sigma / 0.01).to.be.within(0.85, 1.15);
      expect(reading.method).to.equal('neighbouring frames');
      expect(reading.told).to.match(/texture, or noise that stands still/);
    }
    const plain = [10, 11].map((seed) => noisy(smooth.waves, 0.01, seed));
    expect(read(plain[0], { beside: [plain[1]] }).told).to.match(/which agree/);
  });

  it('goes by itself where all of it moves', () => {
    const moved: Scene = (x, y) => smooth.waves(x + 25, y + 9);
    const reading = read(noisy(smooth.waves, 0.01, 12), { beside: [noisy(moved, 0.01, 13)] });
    expect(reading.method).to.equal('picture');
    expect(reading.sigma / 0.01).to.be.within(0.85, 1.15);
    expect(reading.told).to.match(/as they do in motion/);
  });

  it('takes an error pass before everything else', () => {
    const y = noisy(smooth.flat, 0.01, 14);
    expect(readNoise(sources(y, { sigma: y, halves: [y, y], beside: [y] })).method).to.equal('error pass');
  });
});
