/** The stand-in denoiser, on pictures whose truth is known: what it takes, what it keeps, what it cannot. */
import { expect } from 'chai';
import { denoise } from '../../core/picture/denoise.ts';
import { denoising } from '../../core/diagnose/denoising/definition.ts';
import type { PictureInput } from '../../core/diagnose/picture-input.ts';
import { diagnosePicture } from '../../core/diagnose/run.ts';
import { randomNumbers } from './size.ts';

const [WIDTH, HEIGHT, SIGMA] = [72, 56, 0.03];
const truth = (x: number, y: number): number => (x < WIDTH / 2 ? 0.15 : 0.6) + 0.1 * Math.sin(y / 9);
const plane = (of: (x: number, y: number) => number) => Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => of(i % WIDTH, Math.floor(i / WIDTH))); // prettier-ignore
function noisy(seed: number, sigma = SIGMA): Float32Array {
  const random = randomNumbers(seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return plane((x, y) => truth(x, y) + sigma * normal());
}
const even = new Float32Array(WIDTH * HEIGHT).fill(SIGMA);
const rmse = (a: Float32Array, b: Float32Array) => Math.sqrt(a.reduce((sum, v, i) => sum + (v - b[i]) ** 2, 0) / a.length); // prettier-ignore
const input = (luminance: Float32Array, rest: Partial<PictureInput> = {}) =>
  ({ width: WIDTH, height: HEIGHT, luminance, sigma: null, albedo: null, beside: [], passes: new Map(), ...rest }) as unknown as PictureInput; // prettier-ignore
const examine = (picture: PictureInput) => diagnosePicture(picture, [denoising]);

describe('stand-in denoiser', () => {
  it('leaves less than half of the error, and the edge as steep as it was', () => {
    const clean = denoise({ luminance: noisy(1), sigma: even, width: WIDTH, height: HEIGHT });
    expect(rmse(clean, plane(truth)) / SIGMA).to.be.below(0.5);
    for (let y = 5; y < HEIGHT - 5; y += 7) {
      const step = clean[y * WIDTH + WIDTH / 2] - clean[y * WIDTH + WIDTH / 2 - 1];
      expect(step).to.be.closeTo(0.45, 0.1);
    }
  });

  it('holds a faint edge that a guide knows, which noise hides from it', () => {
    const faint = plane((x) => (x < WIDTH / 2 ? 0.3 : 0.33));
    const clear = plane(truth);
    const random = noisy(2).map((v, i) => v - clear[i] + faint[i]);
    const albedo = plane((x) => (x < WIDTH / 2 ? 0.2 : 0.8));
    const [alone, guided] = [[], [albedo]].map((guides) => denoise({ luminance: random, sigma: even, width: WIDTH, height: HEIGHT, guides })); // prettier-ignore
    expect(rmse(guided, faint)).to.be.below(rmse(alone, faint));
  });

  it('says that grain denoises, and that a firefly stays', () => {
    const [grain] = examine(input(noisy(3, 0.01)));
    expect(grain.sentence).to.match(/^Would denoise as a still: /);
    const speck = noisy(3, 0.01);
    for (const at of [1500, 2222, 3100]) speck[at] = 30;
    const [stays] = examine(input(speck));
    expect(stays.cause).to.equal('denoising.fireflies-stay');
    expect(stays.measured!.fireflyLeft).to.be.greaterThan(0.3);
    expect(stays.severity).to.equal('caution');
  });

  it('answers for a sequence apart from a still', () => {
    const [calm] = examine(input(noisy(4, 0.002), { beside: [noisy(5, 0.002)] }));
    expect(calm.sentence).to.match(/and is calm in motion/);
    const [boils] = examine(input(noisy(6, 0.06), { beside: [noisy(7, 0.06)] }));
    expect(boils.measured!.boiling as number).to.be.greaterThan(calm.measured!.boiling as number);
    expect(boils.severity).to.equal('caution');
  });

  it('says nothing of what is nothing', () => {
    expect(examine(input(new Float32Array(WIDTH * HEIGHT).fill(NaN)))).to.deep.equal([]);
    expect(examine(input(new Float32Array(WIDTH * HEIGHT).fill(0.4)))).to.deep.equal([]);
    expect(examine({ ...input(Float32Array.of(0.4)), width: 1, height: 1 })).to.deep.equal([]);
  });
});
