/** Luminances and errors smoothed over pixels that may be the same. */
import { expect } from 'chai';
import { smoothed } from '../../core/diagnose/noise/smoothed.ts';
import { randomNumbers } from './size.ts';

const [WIDTH, HEIGHT] = [40, 30];
const plane = (of: (x: number, y: number) => number) =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => of(i % WIDTH, Math.floor(i / WIDTH)));
const all = plane(() => 1);
const mean = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0) / values.length;

describe('smoothed luminances', () => {
  it('are means of 5 × 5 pixels where all are the same but for their noise', () => {
    const random = randomNumbers(5);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const y = plane(() => 0.5 + 0.02 * normal());
    const sigma = plane(() => 0.02 * Math.sqrt((normal() ** 2 + normal() ** 2 + normal() ** 2) / 3));
    const out = smoothed(y, sigma, all, WIDTH, HEIGHT);
    expect(mean(out.y)).to.be.within(0.498, 0.502);
    // The deviation of a mean of 25: a fifth; a little more at the borders, which have fewer, and where some are left out.
    const spread = Math.sqrt(mean(out.y.map((v) => (v - 0.5) ** 2)));
    expect(spread).to.be.within(0.002, 0.0075);
    expect(mean(out.variance) / 0.02 ** 2).to.be.within(0.85, 1.15);
  });

  it('keep both sides of an edge, and a line as thin as a pixel, to themselves', () => {
    const y = plane((x) => (x === 30 ? 2 : x < 20 ? 0 : 0.15));
    const sigma = plane((x) => (x === 30 ? 0.1 : x < 20 ? 0 : 0.002));
    const out = smoothed(y, sigma, all, WIDTH, HEIGHT);
    for (const i of out.y.keys()) {
      expect(out.y[i]).to.be.closeTo(y[i], 1e-6);
      expect(out.variance[i]).to.be.closeTo(sigma[i] ** 2, 1e-9);
    }
  });

  it('take errors from pixels that count alone', () => {
    const counts = plane((x, y) => (x + y) % 2);
    const sigma = plane((x, y) => ((x + y) % 2 ? 0.1 : 9));
    const out = smoothed(plane(() => 0.3), sigma, counts, WIDTH, HEIGHT); // prettier-ignore
    for (const v of out.variance) expect(v).to.be.closeTo(0.01, 1e-6);
  });
});
