/** Colour values against the standards, and what the display makes of them. */
import { expect } from 'chai';
import { linearFromSrgb, luminance, srgbFromLinear } from '../../core/data/colour.ts';
import { SCALE, SHADOW_BOOST, viewColour, viewScale } from '../../core/picture/view.ts';

describe('colour', () => {
  it('follows the sRGB curve (IEC 61966-2-1)', () => {
    expect(srgbFromLinear(0.0031308)).to.be.closeTo(0.04045, 1e-5);
    expect(linearFromSrgb(0.04045)).to.be.closeTo(0.0031308, 1e-6);
    expect(linearFromSrgb(0.5)).to.be.closeTo(0.21404, 1e-5);
    expect(srgbFromLinear(0)).to.equal(0);
    expect(srgbFromLinear(1)).to.be.closeTo(1, 1e-12);
  });

  it('comes back from the curve as it went in', () => {
    for (let i = 0; i <= 1000; i++) expect(linearFromSrgb(srgbFromLinear(i / 1000))).to.be.closeTo(i / 1000, 1e-9);
  });

  it('weighs luminance with 0.2126, 0.7152, 0.0722 (ITU-R BT.709)', () => {
    expect(luminance(1, 0, 0)).to.equal(0.2126);
    expect(luminance(0, 1, 0)).to.equal(0.7152);
    expect(luminance(0, 0, 1)).to.equal(0.0722);
    expect(luminance(1, 1, 1)).to.be.closeTo(1, 1e-12);
  });
});

describe('view', () => {
  const show = (value: number, view: { exposure: number; gamma: number }) => {
    const out = new Uint8ClampedArray(4);
    viewColour([value], [value], [value], view, out);
    return [...out];
  };

  it('shows every value within one 8-bit step of the sRGB curve computed in doubles', () => {
    for (let i = 0; i <= 500; i++) {
      const value = (i / 500) ** 3;
      const exact = 255 * srgbFromLinear(value);
      expect(show(value, { exposure: 0, gamma: 1 })[0], `value ${value}`).to.be.closeTo(exact, 1);
    }
  });

  it('doubles light a stop and applies gamma on top of the curve', () => {
    expect(show(0.1, { exposure: 1, gamma: 1 })).to.deep.equal(show(0.2, { exposure: 0, gamma: 1 }));
    const exact = 255 * srgbFromLinear(0.04 * 4) ** (1 / 1.25);
    expect(show(0.04, SHADOW_BOOST)[0]).to.be.closeTo(exact, 1);
  });

  it('clips what is outside the display and marks what is no number', () => {
    expect(show(-3, { exposure: 0, gamma: 1 })).to.deep.equal([0, 0, 0, 255]);
    expect(show(99, { exposure: 0, gamma: 1 })).to.deep.equal([255, 255, 255, 255]);
    expect(show(NaN, { exposure: 0, gamma: 1 })).to.deep.equal([255, 0, 255, 255]);
    expect(show(Infinity, { exposure: 0, gamma: 1 })).to.deep.equal([255, 0, 255, 255]);
  });

  it('has a false-colour scale whose luminance only rises, so that it reads without colour', () => {
    const levels = SCALE.map(([r, g, b]) =>
      luminance(...([r, g, b].map((c) => linearFromSrgb(c / 255)) as [number, number, number])),
    );
    for (let i = 1; i < levels.length; i++) expect(levels[i]).to.be.above(levels[i - 1]);
    const out = new Uint8ClampedArray(12);
    viewScale([0, 5, 50], 10, out);
    expect([...out.subarray(0, 3)]).to.deep.equal([...SCALE[0]]);
    expect([...out.subarray(4, 7)]).to.deep.equal([...SCALE[3]]);
    expect([...out.subarray(8, 11)]).to.deep.equal([...SCALE.at(-1)!]);
  });
});
