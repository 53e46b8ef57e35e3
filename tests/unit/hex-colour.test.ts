/** Colours in hexadecimal: sRGB by IEC 61966-2-1, section 5. */
import { expect } from 'chai';
import { hexOf, linearOfHex } from '../../core/data/hex-colour.ts';

describe('a colour in hexadecimal', () => {
  it('is read by the curve of the standard', () => {
    // ((128 / 255 + 0.055) / 1.055) ^ 2.4, by hand.
    for (const part of linearOfHex('#808080')!) expect(part).to.be.closeTo(0.21586, 1e-5);
    // 10 / 255 is on the straight part: / 12.92.
    expect(linearOfHex('0a0a0a')![0]).to.be.closeTo(10 / 255 / 12.92, 1e-9);
    expect(linearOfHex('#FFF')).to.deep.equal([1, 1, 1]);
    expect(linearOfHex(' #f00 ')).to.deep.equal([1, 0, 0]);
  });

  it('comes back as it was, every byte', () => {
    for (let byte = 0; byte < 256; byte++) {
      const hex = `#${byte.toString(16).padStart(2, '0').repeat(3)}`;
      expect(hexOf(linearOfHex(hex)!)).to.equal(hex);
    }
  });

  it('is clipped beyond white and below black, and refused where it is none', () => {
    expect(hexOf([2, 1, -0.5])).to.equal('#ffff00');
    for (const text of ['', '#12', '#12345g', 'red', '#1234567']) expect(linearOfHex(text), text).to.equal(null);
  });
});
