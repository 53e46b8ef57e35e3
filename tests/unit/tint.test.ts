/** What gets through glass, and glass for a colour that is wished for: closed forms, the renderer, a colour package's published values. */
import { expect } from 'chai';
import { defaultMaterial } from '../../core/document/defaults.ts';
import { fresnelDielectric } from '../../core/materials/fresnel.ts';
import { atLightness, lightnessOf } from '../../core/tint/lightness.ts';
import { glassOf, swallowed, throughStack, type Glass, type Rgb } from '../../core/tint/stack.ts';
import { attenuationFor, baseColourFor } from '../../core/tint/wish.ts';
import { throughGlass } from '../../core/tint/over-picture.ts';
import { linearOfHex } from '../../core/data/hex-colour.ts';
import { box } from '../../demo/shapes.ts';
import { meanOf, render, scene, square } from './helpers.ts';

const clear: Glass = { filter: [1, 1, 1], absorption: [0, 0, 0], ior: 1.5, isThin: false, thickness: 0.003 };
const close = (rgb: Rgb, to: number[], by = 1e-9) => rgb.forEach((c, k) => expect(c).to.be.closeTo(to[k], by));

describe('tint of glass', () => {
  it('of clear panes is that of a pile of plates', () => {
    // Stokes 1862: n plates of glass let (1 − R)/(1 + (2n − 1)R) through.
    const r = fresnelDielectric(1, 1.5);
    for (const bodies of [0, 1, 2, 5, 1000]) {
      const through = bodies === 0 ? 1 : (1 - r) / (1 + (2 * bodies - 1) * r);
      close(throughStack(clear, { bodies, metres: 0.01 }), [through, through, through]);
    }
    close(throughStack({ ...clear, isThin: true }, { bodies: 1, metres: 0 }), Array(3).fill((1 - r) / (1 + r)));
  });

  it('goes by Beer–Lambert within, and by the face’s colour on each face', () => {
    // Indices that match: nothing is mirrored, so that both laws stand by themselves.
    const glass = glassOf({ ...defaultMaterial(), ior: 1, baseColour: [0.9, 0.5, 0.1], attenuationColour: [0.5, 0.25, 1], attenuationDistance: 0.01 }, false); // prettier-ignore
    close(throughStack(glass, { bodies: 2, metres: 0.005 }), [0.9 ** 4 * 0.5, 0.5 ** 4 * 0.25, 0.1 ** 4]);
    expect(swallowed(throughStack({ ...glass, filter: [0, 0.02, 1] }, { bodies: 2, metres: 0 }))).to.deep.equal([0, 1]);
  });

  it('is what the renderer lets through, solid and thin', () => {
    for (const isThin of [false, true]) {
      const material = { ...defaultMaterial(), transmission: 1, roughness: 0, baseColour: [0.8, 0.6, 0.9], attenuationColour: [0.5, 0.9, 0.7], attenuationDistance: 0.1, thickness: 0.05 }; // prettier-ignore
      const panes = [0, 1].map((k) => ({ mesh: isThin ? square(4, k) : box([-4, -4, k], [4, 4, k + 0.05]), material, object: { thin: isThin } })); // prettier-ignore
      const through = throughStack(glassOf(material, isThin), { bodies: 2, metres: 0.05 });
      const behind = scene([...panes, { mesh: square(40, -3), material: { ...defaultMaterial(), baseColour: [0, 0, 0], specular: 0, emission: [1, 1, 1], sampledAsLight: false } }], { lights: {} }, { width: 4, height: 4, samples: 1024 }); // prettier-ignore
      const film = render(behind);
      const { mean, error } = meanOf(film);
      const [r, g, b] = through;
      expect(mean, isThin ? 'thin' : 'solid').to.be.closeTo(0.2126 * r + 0.7152 * g + 0.0722 * b, 4 * error + 0.004);
    }
  });

  it('is found for a colour that is wished for, or it is said that no glass lets so much through', () => {
    const stack = { bodies: 2, metres: 0.004 };
    const wish: Rgb = [0.3, 0.5, 0.2];
    const { value, through } = baseColourFor(clear, stack, wish);
    close(through, wish, 1e-6);
    close(throughStack({ ...clear, filter: value! }, stack), wish, 1e-6);
    expect(baseColourFor(clear, stack, [0.95, 0.5, 0.2]).value).to.equal(null);
    const colour: Rgb = [0.9, 0.7, 0.4];
    const grown = attenuationFor(clear, stack, colour, [0.5, 0.5, 0.5]);
    expect(grown.value).to.be.within(0.001, 0.1);
    const [r, g, b] = grown.through;
    expect(0.2126 * r + 0.7152 * g + 0.0722 * b).to.be.closeTo(0.5, 1e-6);
    expect(attenuationFor(clear, stack, [1, 1, 1], wish).value).to.equal(null);
  });

  it('is lighter or darker in the same hue', () => {
    // Ottosson, "A perceptual color space for image processing" (2020): sRGB red has an OKLab lightness of 0.628; white 1.
    expect(lightnessOf(linearOfHex('#ff0000')!, 'oklch')).to.be.closeTo(0.628, 5e-4);
    expect(lightnessOf([1, 1, 1], 'oklch')).to.be.closeTo(1, 1e-4);
    // CSS Color 4: #bf4040 is hsl(0 50% 50%), and with a lightness of 75 % #df9f9f.
    expect(lightnessOf(linearOfHex('#bf4040')!, 'hsl')).to.be.closeTo(0.5, 0.002);
    close(atLightness(linearOfHex('#bf4040')!, 'hsl', 0.75), linearOfHex('#df9f9f')!, 0.01);
    const light = atLightness(linearOfHex('#203060')!, 'oklch', 0.8);
    expect(lightnessOf(light, 'oklch')).to.be.closeTo(0.8, 0.01);
    expect(Math.max(...light)).to.equal(light[2]);
  });

  it('is laid over a picture as light is filtered: half of a middle grey is display code 137, and what stands beside stays', () => {
    // IEC 61966-2-1: code 188 is 0.503 of the light; half of it, 0.2515, is code 137.
    const pixels = new Uint8ClampedArray(4 * 10).fill(188);
    const seen = throughGlass(pixels, 10, [0.5, 1, 0]);
    expect([...seen.subarray(0, 4)]).to.deep.equal([188, 188, 188, 188]);
    expect([...seen.subarray(4 * 5, 4 * 6)]).to.deep.equal([137, 188, 0, 188]);
    expect([...seen.subarray(4 * 9)]).to.deep.equal([188, 188, 188, 188]);
    expect(pixels[4 * 5]).to.equal(188);
  });
  it('of what makes no sense is refused by name', () => {
    expect(() => throughStack({ ...clear, ior: 0 }, { bodies: 1, metres: 0 })).to.throw(
      RangeError,
      /index of refraction of 0/,
    );
    expect(() => throughStack(clear, { bodies: 1.5, metres: 0 })).to.throw(RangeError, /1\.5 bodies/);
    expect(() => throughStack(clear, { bodies: 1, metres: -1 })).to.throw(RangeError, /-1 m/);
  });
});
