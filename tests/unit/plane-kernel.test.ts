/** The kernel that pictures are examined with, against its TypeScript twin. */
import { expect } from 'chai';
import { examinePicture } from '../../core/picture/examine.ts';
import { plainPlanes, type Summands } from '../../core/picture/plane-means.ts';
import { planeMeans } from '../../host/kernel.ts';
import { randomNumbers } from './size.ts';

const LENGTHS = [1, 3, 4, 5, 31, 8191, 8192, 8193, 100_003];
const STRANGE = [NaN, Infinity, -Infinity, 0, -0, 2 ** -149, -(2 ** -140), 65504, 3.4e38, -1, 1];

/** Values over many stops, both signs, with strange ones among them. */
function planeOf(length: number, seed: number, share = 0.02): Float32Array {
  const random = randomNumbers(seed);
  return Float32Array.from({ length }, () =>
    random() < share ? STRANGE[Math.floor(random() * STRANGE.length)] : (random() - 0.2) * 2 ** (random() * 40 - 30),
  );
}

describe('the kernel that measures planes', () => {
  it('sums channels as its twin does, whatever is in them', () => {
    for (const length of LENGTHS)
      for (const end of [1, 65504, Infinity]) {
        const plane = planeOf(length, length);
        expect(planeMeans().channelSums(plane, end), `${length}`).to.deep.equal(plainPlanes.channelSums(plane, end));
      }
    // Nothing but what is no number, and zeros of both signs.
    for (const values of [[NaN, NaN, Infinity, NaN, -Infinity], [0, -0, -0, 0, -0, 0], [-0, -0, -0, -0]]) {
      const plane = Float32Array.from(values);
      expect(planeMeans().channelSums(plane, 1)).to.deep.equal(plainPlanes.channelSums(plane, 1));
    }
  }); // prettier-ignore

  it('counts what is there', () => {
    const plane = Float32Array.of(0.5, -2, NaN, 4, 0, Infinity, 65504, 1, 1e-40, -0, 0.75, 3);
    const { exponents, ...sums } = planeMeans().channelSums(plane, 65504);
    expect(sums).to.deep.equal({ min: -2, max: 65504, sum: Math.fround(1e-40) + 65511.25, nan: 1, infinite: 1, negative: 1, clipped: 1, notFinite: [2, 5] }); // prettier-ignore
    // IEEE 754: exponents are 127 more than the stop; 0 are subnormal values.
    const told = [...exponents].flatMap((count, e) => (count ? [[e ? e - 127 : 'subnormal', count]] : []));
    expect(told).to.deep.equal([['subnormal', 1], [-1, 2], [0, 1], [1, 1], [2, 1], [15, 1]]); // prettier-ignore
  });

  it('weighs colours as BT.709 does, to the bit of its twin', () => {
    for (const length of LENGTHS) {
      const colours = [1, 2, 3].map((seed) => planeOf(length, seed * 31 + length)) as [Float32Array, Float32Array, Float32Array]; // prettier-ignore
      const [ours, twins] = [planeMeans(), plainPlanes].map((means) => means.luminance(...colours));
      for (let i = 0; i < length; i++) if (!Object.is(ours[i], twins[i])) expect.fail(`${length}: ${ours[i]}, not ${twins[i]}`); // prettier-ignore
    }
    // ITU-R BT.709-6, item 3.2.
    const [one, none] = [Float32Array.of(1), Float32Array.of(0)];
    const primaries = [[one, none, none], [none, one, none], [none, none, one], [one, one, one]] as const; // prettier-ignore
    expect(primaries.map(([r, g, b]) => Math.round(planeMeans().luminance(r, g, b)[0] * 1e6) / 1e6)).to.deep.equal([0.2126, 0.7152, 0.0722, 1]); // prettier-ignore
  });

  it('finds where parts do not add up as its twin does', () => {
    for (const length of LENGTHS) {
      const channels = [1, 2, 3].map((seed): Summands => {
        const parts = [1, 2, 3, 4].map((k) => planeOf(length, seed * 100 + k, 0.001).map(Math.abs));
        const random = randomNumbers(seed);
        const whole = parts[0].map((_, i) => parts.reduce((sum, part) => sum + part[i], 0) * (random() < 0.1 ? 1.01 : 1)); // prettier-ignore
        const step = seed === 2 ? { share: 2 ** -11, least: 2 ** -25 } : { share: 2 ** -23, least: 0 };
        return { whole: { plane: whole, step }, parts: parts.map((plane) => ({ plane, step })) };
      });
      const [ours, twins] = [planeMeans().misfit(channels), plainPlanes.misfit(channels)];
      expect({ ...ours, off: [] }).to.deep.equal({ ...twins, off: [] });
      expect(Buffer.from(ours.off).equals(Buffer.from(twins.off)), `${length}`).to.equal(true);
      if (length > 1000) expect(ours.off.reduce((a, b) => a + b) / length).to.be.within(0.2, 0.35);
    }
  });

  it('tells of a file what its twin tells', () => {
    const [width, height] = [97, 61];
    const names = ['R', 'G', 'B', 'A', 'diffuse.R', 'diffuse.G', 'diffuse.B', 'specular.R', 'specular.G', 'specular.B', 'Z']; // prettier-ignore
    const planes = new Map(names.map((name, k) => [name, planeOf(width * height, k + 1, 0.001)]));
    const window = { minX: 0, minY: 0, maxX: width - 1, maxY: height - 1 };
    const channels = names.map((name) => ({ name, type: 'half' as const }));
    const part = { name: '', compression: 'ZIP', width, height, dataWindow: window, displayWindow: window, pixelAspect: 1, channels, attributes: {}, planes, isDeep: false, missingChunks: 0, broken: [] }; // prettier-ignore
    const file = { format: 'OpenEXR', isForDisplay: false, parts: [part] };
    const facts = examinePicture(file, planeMeans());
    expect(facts).to.deep.equal(examinePicture(file));
    expect(facts.health.findings.map(({ id }) => id)).to.include.members(['not-finite', 'passes-add-up']);
  });
});
