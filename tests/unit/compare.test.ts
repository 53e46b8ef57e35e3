/** Pictures compared: SSIM against ssim.js (Wang et al. 2004, `original`), RMSE and PSNR against their formulas. */
import { expect } from 'chai';
import { ssim as reference } from 'ssim.js';
import { compareColours, type Colours } from '../../core/picture/compare.ts';
import { ssim } from '../../core/picture/ssim.ts';
import { randomNumbers } from './size.ts';

/** ssim.js compares RGBA bytes; a grey picture is its luma there. */
function theirs(a: number[], b: number[], width: number, height: number): number {
  const image = (grey: number[]) => ({ width, height, data: Uint8ClampedArray.from(grey.flatMap((v) => [v, v, v, 255])) }); // prettier-ignore
  return reference(image(a) as never, image(b) as never, { ssim: 'original', downsample: false }).mssim;
}

describe('structural similarity', () => {
  const [width, height] = [64, 48];
  const random = randomNumbers(2);
  const base = Array.from({ length: width * height }, (_, i) => Math.round(110 + 60 * Math.sin((i % width) / 6) + 40 * Math.cos(i / width / 5))); // prettier-ignore
  for (const [what, change] of [
    ['noise', (v: number) => v + (random() - 0.5) * 40],
    ['a shift of brightness', (v: number) => v + 25],
    ['less contrast', (v: number) => 100 + (v - 100) * 0.5],
    ['another picture', () => random() * 255],
  ] as const)
    it(`is that of ssim.js: ${what}`, () => {
      const other = base.map((v) => Math.round(Math.min(255, Math.max(0, change(v)))));
      expect(ssim(base, other, width, height, 255)).to.be.closeTo(theirs(base, other, width, height), 1e-6);
    });

  it('is 1 for equal pictures, and none where the window does not fit', () => {
    expect(ssim(base, base, width, height, 255)).to.be.closeTo(1, 1e-12);
    expect(Number.isNaN(ssim([1, 2], [1, 2], 2, 1, 255))).to.equal(true);
  });
});

describe('two pictures', () => {
  const even = (value: number, more: Partial<Colours> = {}): Colours => {
    const { width = 20, height = 16 } = more;
    const plane = () => new Float32Array(width * height).fill(value);
    return { x: 0, y: 0, width, height, planes: [plane(), plane(), plane()], ...more };
  };

  it('differ by their RMSE in linear values, their PSNR in display values, and stops', () => {
    // Display values of 0.25 and 0.5 by IEC 61966-2-1: 0.537099 and 0.735357.
    const { rmse, psnr, stops, isAligned } = compareColours(even(0.25), even(0.5));
    expect([rmse, stops, isAligned]).to.deep.equal([0.25, 1, false]);
    expect(psnr).to.be.closeTo(-20 * Math.log10(0.735357 - 0.537099), 1e-3);
  });

  it('are held against each other where both are, and say so', () => {
    const a = even(1, { x: -4, y: 2, width: 20, height: 16 });
    const b = even(1, { x: 3, y: 0, width: 40, height: 12 });
    (b.planes[1] as Float32Array)[(5 - b.y) * 40 + 9 - b.x] = 3;
    const found = compareColours(a, b);
    expect(found).to.deep.include({ x: 3, y: 2, width: 13, height: 10, isAligned: true });
    expect(found.most).to.deep.equal({ difference: 2, x: 9, y: 5 });
    expect(() => compareColours(a, even(1, { x: 500 }))).to.throw(/no pixel in common/);
  });

  it('leave out what is no number, and say how much of it', () => {
    const b = even(0.5);
    (b.planes[0] as Float32Array)[7] = NaN;
    const found = compareColours(even(0.5), b);
    expect([found.notFinite, found.rmse, found.psnr]).to.deep.equal([1, 0, Infinity]);
  });
});
