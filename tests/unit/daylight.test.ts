/** The daylight sky against its paper and what is measured outdoors, and the sun against almanacs. */
import { expect } from 'chai';
import { luminance } from '../../core/data/colour.ts';
import { lookAt } from '../../core/data/transform.ts';
import { defaultCamera, defaultEnvironment } from '../../core/document/defaults.ts';
import { Daylight, daylightTexture, opticalMass, sunIrradiance, zenithLuminance } from '../../core/lights/daylight.ts';
import { sunEquatorial, sunPosition } from '../../core/lights/sun-position.ts';
import { compiled, meanOf, render, scene, square } from './helpers.ts';

const bright = (c: readonly number[]) => luminance(c[0], c[1], c[2]);
/** Radiometric to photometric, as the model has it. */
const KLX = 179 / 1000;
const noon = { elevation: 60, azimuth: 180, turbidity: 2, groundAlbedo: 0 };

describe('a daylight sky', () => {
  it('has the zenith of the paper (Preetham, Shirley & Smits 1999, A.2), worked by hand', () => {
    // T = 2, sun at 45°: χ = (4/9 − 2/120)(π − π/2) = 0.67195; (4.0453·2 − 4.9710) tan χ − 0.2155·2 + 2.4192 = 4.470 kcd/m².
    expect(zenithLuminance(2, Math.PI / 4)).to.be.closeTo(4.47, 0.005);
    const out = [0, 0, 0];
    new Daylight({ ...noon, elevation: 45 }).radiance(0, 1, 0, out);
    expect(bright(out) * KLX).to.be.closeTo(4.47, 0.01);
  });

  it('is the same on both sides of the sun, brightest round it, darkest a right angle away, and blue there', () => {
    const sky = new Daylight(noon);
    const at = (elevation: number, azimuth: number) => {
      const [e, a] = [(elevation * Math.PI) / 180, (azimuth * Math.PI) / 180];
      const out = [0, 0, 0];
      sky.radiance(Math.cos(e) * Math.sin(a), Math.sin(e), -Math.cos(e) * Math.cos(a), out);
      return out;
    };
    expect(at(40, 150)[1]).to.be.closeTo(at(40, 210)[1], 1e-9);
    expect(bright(at(58, 180))).to.be.above(3 * bright(at(50, 0)));
    expect(bright(at(35, 0))).to.be.below(bright(at(5, 0)));
    expect(at(35, 0)[2] / at(35, 0)[0]).to.be.above(2);
  });

  it('gives about 100,000 lx with a high sun in clear air, a fifth to a third of it from the sky (common practice, no source)', () => {
    const sky = new Daylight(noon);
    const [sun, air] = [bright(sky.sun) * KLX, bright(sky.skyIrradiance()) * KLX];
    expect(sun).to.be.within(90, 110);
    expect(air / (air + sun * Math.sin(Math.PI / 3))).to.be.within(0.2, 0.33);
  });

  it('reddens and dims its sun as the air gets longer: 1 atmosphere overhead, 2 at 30°, 38 at the horizon (Kasten 1966)', () => {
    expect(opticalMass(90)).to.be.closeTo(1, 0.001);
    expect(opticalMass(30)).to.be.closeTo(2, 0.01);
    expect(opticalMass(0)).to.be.within(36, 40);
    const [high, low] = [60, 5].map((elevation) => sunIrradiance({ elevation, turbidity: 3 }));
    expect(low[0] / low[2]).to.be.above(3 * (high[0] / high[2]));
    expect(bright(low)).to.be.below(bright(high) / 5);
    expect(sunIrradiance({ elevation: -1, turbidity: 3 })).to.deep.equal([0, 0, 0]);
  });

  it('has no number that is none anywhere, from sunrise to noon and clear to hazy', () => {
    for (const elevation of [-5, 0, 0.1, 20, 90])
      for (const turbidity of [1.8, 3, 10]) {
        const { texels } = daylightTexture({ ...noon, elevation, turbidity, groundAlbedo: 0.3 }, 16);
        expect(texels.every((value) => Number.isFinite(value) && value >= 0), `${elevation}°, ${turbidity}`).to.equal(true); // prettier-ignore
      }
  });

  it('lights level ground in a render by what sky and sun give it, and white ground as bright as a display’s white', () => {
    const daylight = { ...noon, turbidity: 3, sun: true };
    const intensity = Number(new Daylight(daylight).exposure().toPrecision(4));
    const ground = scene(
      [{ mesh: square(50, 0), material: { baseColour: [1, 1, 1], specular: 0, roughness: 1 }, object: { transform: [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1] } }],
      {
        environment: { ...defaultEnvironment(), kind: 'daylight', intensity, daylight },
        cameras: { main: { ...defaultCamera(), transform: lookAt([0, 3, 0.01], [0, 0, 0]), fieldOfView: 20 } },
      },
      { samples: 256 },
    ); // prettier-ignore
    const { mean, error } = meanOf(render(ground));
    expect(mean).to.be.closeTo(1, 4 * error + 0.01);
    const without = { ...ground, document: { ...ground.document, environment: { ...ground.document.environment, daylight: { ...daylight, sun: false } } } }; // prettier-ignore
    const sky = new Daylight(daylight);
    const air = bright(sky.skyIrradiance());
    const share = air / (air + bright(sky.sun) * Math.sin(Math.PI / 3));
    expect(meanOf(render(without)).mean).to.be.closeTo(share, 0.03);
    const night = { ...ground, document: { ...ground.document, environment: { ...ground.document.environment, daylight: { ...daylight, elevation: -3 } } } }; // prettier-ignore
    expect(compiled(night).warnings.join()).to.match(/below the horizon/);
  });
});

describe('the sun’s place', () => {
  it('is that of Meeus, example 25.a: 1992 October 13, 0 h dynamical time', () => {
    const { rightAscension, declination } = sunEquatorial(2448908.5);
    expect(rightAscension).to.be.closeTo(198.38083, 0.0005);
    expect(declination).to.be.closeTo(-7.78507, 0.0005);
  });

  it('is that of NREL’s solar position algorithm (Reda & Andreas 2004, example): zenith 50.11162°, azimuth 194.34024°', () => {
    const place = { latitude: 39.742476, longitude: -105.1786, time: new Date('2003-10-17T19:30:30Z') };
    const { elevation, azimuth } = sunPosition(place);
    // Their air is thinner, at 1830 m: it lifts the sun 0.004° less.
    expect(elevation).to.be.closeTo(90 - 50.11162, 0.01);
    expect(azimuth).to.be.closeTo(194.34024, 0.01);
  });

  it('rises in the east at the equinox, everywhere', () => {
    for (const latitude of [-40, 0, 55]) {
      const { elevation, azimuth } = sunPosition({ latitude, longitude: 0, time: new Date('2026-03-20T06:05:00Z') });
      expect(elevation).to.be.within(-2, 3);
      expect(azimuth).to.be.closeTo(90, 3);
    }
  });
});
