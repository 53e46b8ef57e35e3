/** Random numbers, pixel filters, and the noise that comes of them: against probability theory. */
import { expect } from 'chai';
import { defaultCamera, defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import type { FilterKind } from '../../core/document/schema.ts';
import { standardError } from '../../core/render/film/film.ts';
import { BEAUTY, MEANS } from '../../core/render/film/passes.ts';
import { FilterSampler, filterValue, tabulated } from '../../core/render/film/pixel-filter.ts';
import { dimension, GROUP, GroupRandom, SLOT_DIRECTION, SLOT_LIGHT, SLOT_LOBE } from '../../core/render/film/random.ts';
import { nextRound } from '../../core/render/film/rounds.ts';
import { luminance } from '../../core/data/colour.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import { box } from '../../demo/shapes.ts';
import { render, scene, sphere, square } from './helpers.ts';
import { atSize } from './size.ts';

describe('random numbers', () => {
  const draw = (x: number, y: number, group: number, seed: number, dim: number, index: number, sample: number) => {
    const random = new GroupRandom();
    random.start(x, y, group, seed);
    random.sample = sample;
    random.draw(dim, index);
    return [random.u, random.v];
  };

  it('depend on pixel, group, seed, dimension, index and sample, and on nothing that was drawn before', () => {
    const place = [3, 5, 7, 11, 13, 2, 1] as const;
    const want = draw(...place);
    for (let k = 0; k < place.length; k++) {
      const other = [...place] as unknown as Parameters<typeof draw>;
      other[k] = (other[k] + 1) % (k === 6 ? 4 : 1e9);
      expect(draw(...other), `argument ${k}`).to.not.deep.equal(want);
    }
    const random = new GroupRandom();
    random.start(3, 5, 7, 11);
    for (let i = 0; i < 50; i++) random.draw(i, i);
    random.sample = 1;
    random.draw(13, 2);
    expect([random.u, random.v]).to.deep.equal(want);
  });

  it('put the 4 samples of a group into the 4 quarters of the square and of each axis (Sobol (0,2)-net)', () => {
    for (let group = 0; group < 200; group++) {
      const points = [0, 1, 2, 3].map((s) => draw(9, 4, group, 1, 17, 0, s));
      expect(new Set(points.map(([u]) => Math.floor(u * 4))).size).to.equal(4);
      expect(new Set(points.map(([, v]) => Math.floor(v * 4))).size).to.equal(4);
      expect(new Set(points.map(([u, v]) => Math.floor(u * 2) * 2 + Math.floor(v * 2))).size).to.equal(4);
    }
  });

  it('are even and independent: chi-square over 16 × 16 cells, pairs of dimensions, pixels and groups', () => {
    const n = atSize(40_000, 4_000_000);
    const pairs: [string, (i: number) => [number, number]][] = [
      ['u and v', (i) => draw(i % 640, Math.floor(i / 640), 0, 1, dimension(0, SLOT_LOBE), 0, 0) as [number, number]],
      ['two slots', (i) => [draw(i, 7, 0, 1, dimension(1, SLOT_DIRECTION), 0, 2)[0], draw(i, 7, 0, 1, dimension(1, SLOT_LIGHT), 0, 2)[0]]],
      ['neighbouring pixels', (i) => [draw(i, 3, 0, 1, 5, 0, 1)[0], draw(i + 1, 3, 0, 1, 5, 0, 1)[0]]],
      ['rows', (i) => [draw(4, i, 0, 1, 5, 0, 1)[1], draw(4, i + 1, 0, 1, 5, 0, 1)[1]]],
      ['groups', (i) => [draw(4, 4, i, 1, 5, 0, 1)[0], draw(4, 4, i + 1, 1, 5, 0, 1)[0]]],
      ['seeds', (i) => [draw(4, 4, 1, i, 5, 0, 1)[0], draw(4, 4, 1, i + 1, 5, 0, 1)[0]]],
      ['indices', (i) => [draw(4, 4, 1, 9, 5, i, 1)[0], draw(4, 4, 1, 9, 5, i + 1, 1)[0]]],
    ]; // prettier-ignore
    for (const [name, pair] of pairs) {
      const cells = new Float64Array(256);
      for (let i = 0; i < n; i++) {
        const [a, b] = pair(i);
        cells[Math.floor(a * 16) * 16 + Math.floor(b * 16)]++;
      }
      const chi = cells.reduce((sum, c) => sum + (c - n / 256) ** 2 / (n / 256), 0);
      // 255 degrees of freedom: 5 deviations of √(2 · 255).
      expect(chi, name).to.be.within(255 - 5 * 22.6, 255 + 5 * 22.6);
    }
  });
});

describe('pixel filters', () => {
  // Variance of each shape of full width w, from its formula: w²/12, w²/24, and a normal one cut off at 2.5σ.
  const cut = 2.5;
  const density = Math.exp(-cut * cut / 2) / Math.sqrt(2 * Math.PI); // prettier-ignore
  const inside = 0.9875806693484477; // Φ(2.5) − Φ(−2.5)
  const variances: Partial<Record<FilterKind, number>> = {
    box: 1 / 12,
    triangle: 1 / 24,
    gaussian: 0.04 * (1 - (2 * cut * density) / inside),
  };
  for (const [kind, variance] of Object.entries(variances))
    it(`${kind}: samples have its mean, its variance and its width`, () => {
      const filter = new FilterSampler(tabulated({ kind: kind as FilterKind, width: 2 }));
      const n = 100_000;
      let sum = 0;
      let squares = 0;
      for (let i = 0; i < n; i++) {
        const x = filter.offset((i + 0.5) / n);
        expect(Math.abs(x)).to.be.at.most(1 + 1e-9);
        sum += x / n;
        squares += (x * x) / n;
      }
      expect(sum).to.be.closeTo(0, 1e-6);
      expect(squares).to.be.closeTo(4 * variance, 2e-5);
    });

  it('of Mitchell and Netravali is their cubic: 8/9 in the middle, 1/18 a quarter out (their equation 8, B = C = 1/3)', () => {
    expect(filterValue('mitchell', 4, 0)).to.be.closeTo(8 / 9, 1e-12);
    expect(filterValue('mitchell', 4, 1)).to.be.closeTo(1 / 18, 1e-12);
    expect(filterValue('mitchell', 4, 2)).to.be.closeTo(0, 1e-12);
  });

  it('of Blackman and Harris is 1 in the middle and 6e-5 at its ends (Harris 1978, table 1)', () => {
    expect(filterValue('blackman-harris', 4, 0)).to.be.closeTo(1, 1e-12);
    expect(filterValue('blackman-harris', 4, 2)).to.be.closeTo(6e-5, 1e-12);
  });

  for (const kind of ['mitchell', 'lanczos', 'blackman-harris'] as FilterKind[])
    it(`${kind}: signed samples give the filter's own mean of 1 and of x², by quadrature`, () => {
      const filter = new FilterSampler(tabulated({ kind, width: 4 }));
      const n = 200_000;
      let one = 0;
      let square = 0;
      let area = 0;
      let moment = 0;
      for (let i = 0; i < n; i++) {
        const x = filter.offset((i + 0.5) / n);
        const weight = filter.sign * Math.sqrt(filter.scale);
        one += weight / n;
        square += (weight * x * x) / n;
        const at = ((i + 0.5) / n) * 4 - 2;
        area += filterValue(kind, 4, at);
        moment += filterValue(kind, 4, at) * at * at;
      }
      expect(one).to.be.closeTo(1, 1e-4);
      expect(square).to.be.closeTo(moment / area, 2e-4);
    });
});

describe('rounds', () => {
  it('double until the target, and end on it', () => {
    const rounds = (from: number, target: number) => {
      const out = [];
      for (let g = from; g < target;) out.push((g = nextRound(g, target)));
      return out;
    };
    expect(rounds(0, 8)).to.deep.equal([1, 2, 4, 8]);
    expect(rounds(0, 11)).to.deep.equal([1, 2, 4, 8, 11]);
    expect(rounds(8, 40)).to.deep.equal([16, 32, 40]);
  });
});

describe('noise', () => {
  it('of a partly covered light is that of four strata a group, below the binomial p(1 − p)/N', () => {
    // A pixel of half width h sees a bright square from x = shift on: each camera sample sees it or not.
    const shift = 0.35;
    const half = 5 * Math.tan((10 * Math.PI) / 180);
    const p = (half - shift) / (2 * half);
    const bright = { baseColour: [0, 0, 0], ior: 1, emission: [1, 1, 1] };
    const test = scene(
      [{ mesh: square(5, 0), material: bright, object: { transform: translation(5 + shift, 0, 0) } }],
      {},
      { width: 1, height: 1, samples: 64, filter: { kind: 'box', width: 1 } },
    );
    const means: number[] = [];
    for (let seed = 1; seed <= 2000; seed++) {
      test.document.sheets.preview.seed = seed;
      means.push(render(test).means[0]);
    }
    const mean = means.reduce((a, b) => a + b) / means.length;
    const variance = means.reduce((sum, m) => sum + (m - mean) ** 2, 0) / (means.length - 1);
    // One of the four strata of x is cut by the edge; it is seen with the chance f. 16 independent groups.
    const f = (4 * p) % 1;
    const exact = (f * (1 - f)) / 16 / 16;
    expect(exact).to.be.below((p * (1 - p)) / 64);
    expect(mean).to.be.closeTo(p, 4 * Math.sqrt(exact / 2000));
    // The variance of a variance of 2000 values is about 2/2000 of its square: 4 deviations.
    expect(variance / exact).to.be.within(1 - 4 * Math.sqrt(2 / 2000), 1 + 4 * Math.sqrt(2 / 2000));
  });

  it('is stated as it is: standard errors agree with the true errors against a long render (invariant 3)', () => {
    const test = scene(
      [
        { mesh: box([-3, -1.2, -3], [3, -1, 3]), material: { baseColour: [0.6, 0.5, 0.4] } },
        { mesh: sphere(0.6), material: { baseColour: [1, 1, 1], transmission: 1, roughness: 0 }, object: { transform: translation(-0.7, -0.4, 0) } },
        { mesh: sphere(0.6), material: { metallic: 1, roughness: 0.2 }, object: { transform: translation(0.7, -0.4, 0) } },
      ],
      {
        lights: { window: { ...defaultLight('rectangle'), name: '', width: 1, height: 1, intensity: 1, colour: [6, 6, 6], transform: lookAt([0.3, 2.5, 1], [0, 0, -0.2]) } },
        environment: evenEnvironment([0.1, 0.2, 0.3]),
        cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([0, 0.3, 5], [0, -0.2, 0]), fieldOfView: 30 } },
      },
      { width: 16, height: 12, samples: 64 },
    ); // prettier-ignore
    const at = (film: ReturnType<typeof render>, i: number) =>
      luminance(film.means[i * MEANS], film.means[i * MEANS + 1], film.means[i * MEANS + 2]);
    test.document.sheets.preview.seed = 999;
    const long = render(test, undefined, atSize(4096, 65536));
    let stated = 0;
    let long2 = 0;
    const seeds = 12;
    for (let seed = 1; seed <= seeds; seed++) {
      test.document.sheets.preview.seed = seed;
      const film = render(test);
      for (let i = 0; i < 192; i++) {
        const error = standardError(film, i, BEAUTY);
        stated += error * error;
        const off = at(film, i) - at(long, i);
        long2 += off * off;
      }
    }
    expect(Math.sqrt(long2 / stated)).to.be.within(0.9, 1.12);
  });

  it('falls with the square root of the samples, or faster', () => {
    const test = scene(
      [{ mesh: sphere(1), material: { baseColour: [0.8, 0.8, 0.8], roughness: 0.5 } }],
      { lights: { window: { ...defaultLight('rectangle'), name: '', width: 2, height: 2, intensity: 1, colour: [3, 3, 3], transform: lookAt([2, 2, 2], [0, 0, 0]) } } },
      { width: 12, height: 12 },
    ); // prettier-ignore
    const rms = (samples: number) => {
      const film = render(test, undefined, samples);
      let sum = 0;
      for (let i = 0; i < 144; i++) sum += standardError(film, i, BEAUTY) ** 2;
      return Math.sqrt(sum);
    };
    const ratio = rms(32) / rms(128);
    expect(ratio).to.be.within(1.85, 2.2);
    expect(GROUP).to.equal(4);
  });
});
