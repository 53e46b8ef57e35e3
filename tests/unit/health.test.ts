/** Layers by the names renderers give them, and what is wrong with a picture. */
import { expect } from 'chai';
import { HALF_TO_FLOAT, halfOf } from '../../core/data/half.ts';
import { healthOf } from '../../core/picture/health/health.ts';
import type { HealthInput } from '../../core/picture/health/check.ts';
import { coloursOf, layersOf } from '../../core/formats/layers.ts';
import { randomNumbers } from './size.ts';

const half = (value: number) => HALF_TO_FLOAT[halfOf(value)];

describe('layers', () => {
  it('are what stands before the last dot, each with a role', () => {
    const names = ['R', 'G', 'B', 'A', 'diffuse.direct.R', 'diffuse.direct.G', 'diffuse.direct.B', 'N.X', 'N.Y', 'N.Z', 'depth.Z', 'crypto_object00.r', 'error.beauty', 'group.window.R', 'Z']; // prettier-ignore
    expect(layersOf(names).map(({ name, role }) => [name, role])).to.deep.equal([
      ['', 'beauty'], ['diffuse.direct', 'light'], ['N', 'data'], ['depth', 'data'], ['crypto_object00', 'matte'], ['error', 'noise'], ['group.window', 'light group'], ['Z', 'data'],
    ]); // prettier-ignore
  });

  it('put colours in their order, whatever the file’s', () => {
    const [layer] = layersOf(['beauty.B', 'beauty.G', 'beauty.R', 'beauty.A']);
    expect(layer.channels).to.deep.equal(['beauty.R', 'beauty.G', 'beauty.B', 'beauty.A']);
    expect(coloursOf(layer)).to.deep.equal(['beauty.R', 'beauty.G', 'beauty.B']);
    expect(coloursOf(layersOf(['depth.Z'])[0])).to.equal(null);
  });

  it('take the channels without a layer as the beauty where a layer of that name is a copy', () => {
    expect(layersOf(['R', 'G', 'B', 'beauty.R', 'beauty.G', 'beauty.B']).map(({ role }) => role)).to.deep.equal(['beauty', 'other']); // prettier-ignore
  });
});

describe('health of a picture', () => {
  const [width, height] = [20, 10];
  /** Two light passes of halves, and their sum as a beauty of halves. */
  function lit(): HealthInput {
    const random = randomNumbers(5);
    const planes = new Map<string, Float32Array>();
    const types = new Map<string, 'half'>();
    for (const c of ['R', 'G', 'B']) {
      const a = Float32Array.from({ length: width * height }, () => half(random() * 3));
      const b = Float32Array.from({ length: width * height }, () => half(random() * 0.1));
      planes.set(`diffuse.${c}`, a);
      planes.set(`specular.${c}`, b);
      planes.set(c, a.map((v, i) => half(v + b[i]))); // prettier-ignore
    }
    for (const name of planes.keys()) types.set(name, 'half');
    return { width, height, planes, types };
  }
  const ids = (input: HealthInput) => healthOf(input).findings.map(({ id }) => id);

  it('has figures over finite values alone, with counts and places of the others', () => {
    const plane = Float32Array.of(1, NaN, -2, Infinity, 4, 5);
    const [found] = healthOf({ width: 3, height: 2, planes: new Map([['R', plane]]), types: new Map() }).channels;
    expect(found).to.deep.include({ name: 'R', min: -2, max: 5, mean: 2, nan: 1, infinite: 1, negative: 1, clipped: 0, places: [{ x: 1, y: 0 }, { x: 0, y: 1 }] }); // prettier-ignore
  });

  it('says that the passes add up, within half a step of each half, and where they do not', () => {
    const input = lit();
    expect(ids(input)).to.deep.equal(['passes-add-up']);
    input.planes.get('G')!;
    (input.planes.get('G') as Float32Array)[3 * width + 7] += 0.5;
    const [finding] = healthOf(input).findings;
    expect(finding).to.include({ id: 'passes-add-up', severity: 'caution' });
    expect(finding.sentence).to.match(/in 1 pixels, by up to 0\.5\d* at 7, 3/);
  });

  it('names what is no number, what is below 0, black passes and coverage that is none', () => {
    const input = lit();
    (input.planes.get('R') as Float32Array)[5] = NaN;
    (input.planes.get('specular.B') as Float32Array)[9] = -0.25;
    input.planes.set(
      'A',
      Float32Array.from({ length: width * height }, () => 1.5),
    );
    for (const c of ['R', 'G', 'B']) input.planes.set(`emission.${c}`, new Float32Array(width * height));
    const { findings } = healthOf(input);
    expect(findings.map(({ id }) => id)).to.include.members(['not-finite', 'negative', 'alpha-range', 'black-pass']);
    expect(findings[0].sentence).to.equal('R has 1 values that are NaN and 0 that are infinite, the first at 5, 0.');
  });

  for (const [what, fill] of [
    ['all NaN', NaN],
    ['one colour', 0.5],
    ['all zero', 0],
  ] as const)
    it(`says what can be said of a picture that is ${what}`, () => {
      const planes = new Map(['R', 'G', 'B'].map((name) => [name, new Float32Array(4).fill(fill)]));
      const { channels } = healthOf({ width: 2, height: 2, planes, types: new Map() });
      expect(channels.every(({ mean }) => Number.isFinite(mean))).to.equal(true);
    });
});
