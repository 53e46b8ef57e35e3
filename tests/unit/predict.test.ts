/** Predictions against what really happens, and against closed forms. */
import { expect } from 'chai';
import { defaultCamera, defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import { luminance } from '../../core/data/colour.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import { LIFTED, runLimitPilot, type Limits } from '../../core/predict/limit-pilot.ts';
import { pilotPixels, pilotStride } from '../../core/predict/pilot-pixels.ts';
import { planSmall } from '../../core/predict/small-render.ts';
import { predictChange } from '../../core/predict/predict-change.ts';
import { pilotPixels as samplePilotPixels } from '../../core/diagnose/noise/plans.ts';
import { cheapestPlan, planFor, provenPlan, sampleModel } from '../../core/predict/sample-plan.ts';
import { samplePilot, type MeasureSamples } from '../../core/predict/sample-pilot.ts';
import { pilotSeed, trialSeed } from '../../core/predict/seeds.ts';
import { MEAN_RAYS, LIGHT_PASS_COUNT, MEANS } from '../../core/render/film/passes.ts';
import { decidingSamples } from '../../core/render/frame/adaptive.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { box } from '../../demo/shapes.ts';
import { tellNothing } from '../../core/figures/nothing-shown.ts';
import { measurePair, type RenderedSide } from '../../core/predict/measure-pair.ts';
import type { Film } from '../../core/render/film/film.ts';
import { NO_EXTRAS } from '../../core/render/film/passes.ts';
import { read } from './effects.ts';
import { compiled, render, scene, sphere } from './helpers.ts';

const glassAndFloor = (sheet = {}) =>
  scene(
    [
      { mesh: box([-3, -1.2, -3], [3, -1, 3]), material: { baseColour: [0.6, 0.5, 0.4] } },
      { mesh: sphere(0.6), material: { baseColour: [1, 1, 1], transmission: 1, roughness: 0 }, object: { transform: translation(-0.7, -0.4, 0) } },
      { mesh: sphere(0.6), material: { metallic: 1, roughness: 0.15 }, object: { transform: translation(0.7, -0.4, 0) } },
    ],
    {
      lights: { window: { ...defaultLight('rectangle'), name: '', width: 2, height: 2, intensity: 1, colour: [3, 3, 3], transform: lookAt([0.3, 2.5, 1], [0, 0, -0.2]) } },
      environment: evenEnvironment([0.2, 0.2, 0.2]),
      cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([0, 0.3, 5], [0, -0.2, 0]), fieldOfView: 30 } },
    },
    { width: 20, height: 16, samples: 32, ...sheet },
  ); // prettier-ignore

const all = Uint32Array.from({ length: 320 }, (_, i) => i);
const ones = new Uint8Array(320).fill(1);

describe('limit pilot', () => {
  const test = glassAndFloor();
  const settings = settingsOf(test.document.sheets.preview);
  const pilot = runLimitPilot(compiled(test), settings, all, ones, 8, 1);

  it('reads off, at any limits, exactly the light and the rays of a render with the same random numbers', () => {
    const cases: Limits[] = [
      LIFTED,
      { diffuse: 1, specular: 1, transmission: 1, volume: 2, alpha: 16, overall: 1 },
      { diffuse: 2, specular: 1, transmission: 2, volume: 2, alpha: 16, overall: 4 },
      { diffuse: 3, specular: 0, transmission: 8, volume: 2, alpha: 16, overall: 3 },
      { diffuse: 0, specular: 4, transmission: 0, volume: 2, alpha: 16, overall: 200 },
    ];
    for (const limits of cases) {
      const film = render(glassAndFloor({ limits }), undefined, 32);
      let light = 0;
      let rays = 0;
      for (let i = 0; i < 320; i++) {
        light += luminance(film.means[i * MEANS], film.means[i * MEANS + 1], film.means[i * MEANS + 2]) * 32;
        rays += film.means[i * MEANS + MEAN_RAYS] * 32;
      }
      expect(pilot.energy(limits) / light, JSON.stringify(limits)).to.be.closeTo(1, 1e-4);
      expect(pilot.rays(limits) / rays, JSON.stringify(limits)).to.be.closeTo(1, 1e-4);
    }
  });

  it('brings no less light when a limit is raised', () => {
    for (let n = 0; n < 10; n++)
      expect(pilot.energy({ ...LIFTED, transmission: n + 1 })).to.be.at.least(
        pilot.energy({ ...LIFTED, transmission: n }),
      );
  });
});

const single = { light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1, occlusion: 1 };

describe('sample plan', () => {
  /** A pilot made up: so much variance by diffuse samples and besides, so many rays for each and besides. */
  const made =
    (v: number, v0: number, c: number, c0: number): MeasureSamples =>
    ({ diffuse }) => ({ variance: v0 + v / diffuse, rays: c0 + c * diffuse });
  it('gives the classic n = √(V c₀ / (V₀ c)) where one kind is noisy (Neyman 1934; Cochran)', () => {
    for (const [v, v0, c, c0] of [
      [90, 10, 4, 16],
      [200, 2, 4, 4],
      [30, 30, 4, 4],
    ]) {
      const model = sampleModel(made(v, v0, c, c0), v + v0, single);
      const plan = cheapestPlan(model, (v + v0) / 4000, single);
      const ideal = Math.sqrt((v * c0) / (v0 * c));
      // Whole numbers from a list: no choice beside it may be cheaper.
      for (const n of [1, 2, 3, 4, 6, 8, 12, 16])
        expect(plan.rays).to.be.at.most(planFor(model, (v + v0) / 4000, { ...single, diffuse: n }).rays * 1.021);
      expect(plan.extra.diffuse / ideal).to.be.within(0.55, 1.8);
    }
  });

  it('raises samples per pixel in proportion to the variance', () => {
    const model = sampleModel(made(0, 8, 0, 4), 8, single);
    expect(planFor(model, 1, single).samples).to.equal(32);
    expect(planFor(model, 0.25, single).samples).to.equal(128);
    expect(cheapestPlan(model, 0.25, single).extra).to.deep.equal(single);
  });

  it('forecasts noise and rays at other counts from one pilot, within 10 %', () => {
    const test = glassAndFloor({ samples: 64 });
    const settings = settingsOf(test.document.sheets.preview);
    const scene = compiled(test);
    const pilot = samplePilot(scene, settings, all, new Float64Array(320).fill(1), 32, 77);
    const measure = (extra: Partial<typeof single>) => {
      const film = render(glassAndFloor({ samples: 256, extraSamples: { ...single, ...extra } }));
      let variance = 0;
      let rays = 0;
      for (let i = 0; i < 320; i++) {
        variance += film.moments[i * LIGHT_PASS_COUNT] / (film.groups - 1);
        rays += film.means[i * MEANS + MEAN_RAYS] * 4;
      }
      return { variance: variance / 320, rays: rays / 320 };
    };
    const now = measure({});
    const model = sampleModel(pilot, now.variance, single);
    expect(model.rays(single) / now.rays).to.be.within(0.95, 1.05);
    for (const extra of [{ diffuse: 4 }, { specular: 4 }, { diffuse: 4, specular: 2, transmission: 2 }]) {
      const there = measure(extra);
      const told = { ...single, ...extra };
      expect(model.rays(told) / there.rays, JSON.stringify(extra)).to.be.within(0.95, 1.05);
      expect(Math.sqrt(model.variance(told) / there.variance), JSON.stringify(extra)).to.be.within(0.9, 1.1);
    }
    expect(model.cost.camera).to.be.closeTo(4, 0.5);
  });
});

const side = (test: ReturnType<typeof scene>) => ({ scene: compiled(test), sheet: test.document.sheets.preview });
const variation = (test: ReturnType<typeof scene>) => ({ sheet: test.document.sheets.preview, compile: () => compiled(test) }); // prettier-ignore
const rendered = (film: Film): RenderedSide => ({ films: [film], layout: NO_EXTRAS, deciding: 0, occlusionRays: 0, seconds: null, ofScene: {} }); // prettier-ignore

describe('any change', () => {
  it('is measured and forecast by the samples each pixel has, where sampling is adaptive', () => {
    const adaptive = { on: true, target: 3, least: 16 };
    const [fixed, spent] = [glassAndFloor({ samples: 256 }), glassAndFloor({ samples: 256, adaptive })];
    const [a, b] = [render(fixed), render(spent)];
    const region = a.region;
    const deciding = decidingSamples({ adaptive, samples: 256 });
    const measured = read(measurePair(rendered(a), { ...rendered(b), deciding }, { region, mask: null, frameWidth: region.width, names: [] })); // prettier-ignore
    const rays = (film: typeof a) =>
      film.counts.reduce(
        (sum, n, k) => sum + (n * 4 + (film === b ? deciding : 0)) * film.means[k * film.width + MEAN_RAYS],
        0,
      );
    // Some groups decide how many a pixel needs, beside those that it gets.
    expect(measured.rays).to.be.closeTo(rays(b) / rays(a), 1e-6);
    expect(measured.rays).to.be.below(0.9);
    const change = { before: side(fixed), region, mask: null, picture: null, names: [], seed: 77 };
    const told = read(predictChange({ ...change, after: variation(spent) }));
    expect(told.rays / measured.rays).to.be.within(0.75, 1.25);
  });

  it('is forecast by a paired pilot within 0.2 stops and 25 % of the rays, without the trial’s numbers', () => {
    const before = glassAndFloor({
      width: 40,
      height: 32,
      samples: 64,
      limits: { diffuse: 2, specular: 1, transmission: 1, volume: 2, alpha: 16, overall: 2 },
    });
    const after = glassAndFloor({
      width: 40,
      height: 32,
      samples: 64,
      limits: { diffuse: 4, specular: 4, transmission: 8, volume: 2, alpha: 16, overall: 12 },
    });
    const region = { x: 8, y: 10, width: 24, height: 18 };
    const change = { before: side(before), region, mask: null, picture: null, names: [], seed: pilotSeed(1) };
    const predicted = read(predictChange({ ...change, after: variation(after) }));
    const sides = [before, after].map((t) => {
      t.document.sheets.preview.seed = trialSeed(1);
      return rendered(render(t, region));
    });
    const measured = read(measurePair(sides[0], sides[1], { region, mask: null, frameWidth: 40, names: [] }));
    expect(measured.stops).to.be.closeTo(predicted.stops, 0.2);
    expect(measured.rays / predicted.rays).to.be.within(0.75, 1.25);
    expect(measured.stops).to.be.above(0.2);
  });

  it('is nothing when nothing changes', () => {
    const test = glassAndFloor();
    const film = render(test);
    const same = measurePair(rendered(film), rendered(film), { region: film.region, mask: null, frameWidth: 20, names: [] }); // prettier-ignore
    expect(read(same)).to.include({ stops: 0, rays: 1 });
    expect(tellNothing(same, ['/occlusion/distance'])).to.equal('No measured figure shows this change; it shows in the occlusion pass: switch it on among the sheet’s passes.'); // prettier-ignore
  });
});

describe('pilots', () => {
  it('look at every so-many-th pixel of their region and no other', () => {
    const region = { x: 3, y: 2, width: 17, height: 9 };
    const pixels = pilotPixels(region, 64, 4);
    expect(new Set(pixels).size).to.equal(pixels.length);
    for (const p of pixels) {
      const [x, y] = [p % 64, Math.floor(p / 64)];
      expect(x >= 3 && x < 20 && y >= 2 && y < 11).to.equal(true);
    }
    expect(pixels.length).to.be.within(10, 15);
  });

  it('spend at most a quarter of a trial’s rays (Conventions)', () => {
    for (const samples of [8, 32, 128])
      for (const [groups, passes] of [
        [2, 2],
        [2, 6],
        [4, 2],
      ]) {
        const stride = pilotStride(samples, groups, passes);
        const perPixel = (groups * 4 * passes) / (stride * stride);
        expect(perPixel / (samples * 2)).to.be.at.most(0.25);
      }
  });

  it('rendered small, take no more than a quarter either, of every size of region (Conventions)', () => {
    for (const samples of [16, 32, 256, 1024])
      for (const width of [9, 24, 120, 480, 1920]) {
        const { pixels, groups } = planSmall({ x: 0, y: 0, width, height: width }, 1920, samples);
        expect((pixels.length * groups * 4) / (width * width * samples), `${samples} ${width}`).to.be.at.most(0.2501);
        expect(new Set(pixels).size).to.equal(pixels.length);
      }
  });

  it('of samples take no more than a quarter of a trial that reaches the target, by their own rays (Conventions)', () => {
    const test = glassAndFloor({ samples: 128 });
    const [groups, scale] = [32, 0.25];
    const some = all.slice(0, samplePilotPixels(all.length, groups, scale));
    const pilot = samplePilot(compiled(test), settingsOf(test.document.sheets.preview), some, new Float64Array(some.length).fill(1), 8, 77); // prettier-ignore
    const spent = new Map<object, number>();
    const counted: MeasureSamples = (extra) => {
      const measured = pilot(extra);
      spent.set(measured, measured.rays * some.length * 8);
      return measured;
    };
    const now = counted(single);
    const model = sampleModel(counted, now.variance, single);
    const plan = provenPlan(model, (now.variance / groups) * scale ** 2, single);
    const trial = all.length * (groups * now.rays + plan.rays);
    expect([...spent.values()].reduce((a, b) => a + b, 0) / trial).to.be.at.most(0.25);
  });

  it('never share a seed with a trial, or with a sheet’s usual ones', () => {
    const seeds = new Set<number>();
    for (let n = 1; n < 500; n++) seeds.add(pilotSeed(n)).add(trialSeed(n));
    expect(seeds.size).to.equal(998);
    expect(Math.min(...seeds)).to.be.above(2 ** 31 - 1);
    expect(Math.max(...seeds)).to.be.below(2 ** 32);
  });
});
