/** Occlusion at every distance from one trace: closed forms, the renderer's own pass, and the distances that people settle on. */
import { expect } from 'chai';
import { FALLOFFS, type Falloff } from '../../core/data/falloff.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import { defaultCamera, defaultEnvironment, defaultSheet } from '../../core/document/defaults.ts';
import type { Sheet } from '../../core/document/schema.ts';
import type { Comparison, Side } from '../../core/figures/figure.ts';
import { information } from '../../core/figures/information.ts';
import { occlusionNoise } from '../../core/figures/occlusion-noise.ts';
import { openness } from '../../core/figures/openness.ts';
import { shut } from '../../core/figures/shut.ts';
import { errorBy, figuresOf, occlusionCurve } from '../../core/occlusion/curve.ts';
import { OcclusionWalk, opennessAt, traceDistances, type TracedDistances } from '../../core/occlusion/distances.ts';
import { placesOver } from '../../core/place/grid.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { buildStoreRoom } from '../../demo/ha-040/build.ts';
import { benchShot } from './bench-shot.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, render, scene, sphere, square, type TestScene } from './helpers.ts';

const from = (eye: [number, number, number], at: [number, number, number], fieldOfView = 2) => ({ main: { ...defaultCamera(), transform: lookAt(eye, at), fieldOfView } }); // prettier-ignore
function traced(test: TestScene, rays = 4096, about = 1): TracedDistances {
  const sheet = test.document.sheets.preview;
  const walk = new OcclusionWalk(compiled(test), sheet);
  return traceDistances(walk, sheet.occlusion, placesOver(walk, sheet, about, !sheet.occlusion.seeThrough).places.slice(0, about === 1 ? 1 : undefined), rays); // prettier-ignore
}
const open = (of: TracedDistances, metres = Infinity, seeThrough = false, falloff: Falloff = 'none'): number => opennessAt(of, metres, { seeThrough, falloff }, new Float32Array(of.places.length))[0]; // prettier-ignore
const floor = { mesh: square(200, 0) };

describe('occlusion at every distance', () => {
  it('of a floor under a ceiling is the part of the cosine-weighted sky beyond the circle that the distance cuts out', () => {
    const height = 2;
    const ceiling = { mesh: square(4000, 0), object: { transform: translation(0, 0, height) } };
    const of = traced(scene([floor, ceiling], { cameras: from([3, 0, 1.5], [0, 0, 0]) }));
    expect(open(of)).to.equal(0);
    // Rays at θ go h/cos θ: those within cos θ > h/D are met, and a cosine-weighted sky has sin²θ of itself within θ.
    for (const distance of [2.5, 4, 10]) expect(open(of, distance)).to.be.closeTo((height / distance) ** 2, 0.004);
    expect(open(of, 1.9)).to.equal(1);
  });

  it('fades as its formula says: under a ceiling each has a closed form', () => {
    const height = 2;
    const ceiling = { mesh: square(4000, 0), object: { transform: translation(0, 0, height) } };
    const of = traced(scene([floor, ceiling], { cameras: from([3, 0, 1.5], [0, 0, 0]) }));
    for (const distance of [2.5, 4, 10]) {
      // Rays at μ = cos θ, of which 2μ dμ are, meet the ceiling at h/μ; c = h/D of them and more are met.
      const c = height / distance;
      const exact = (rho: (share: number) => number) => {
        const n = 20_000;
        let sum = c * c;
        for (let k = 0; k < n; k++) { const mu = c + ((1 - c) * (k + 0.5)) / n; sum += (rho(c / mu) * 2 * mu * (1 - c)) / n; }
        return sum;
      };
      expect(exact((share) => share), 'the sum itself').to.be.closeTo(2 * c - c * c, 1e-6);
      expect(open(of, distance, false, 'linear')).to.be.closeTo(2 * c - c * c, 0.004);
      expect(open(of, distance, false, 'square-root')).to.be.closeTo(c * c + (4 / 3) * Math.sqrt(c) * (1 - c ** 1.5), 0.004);
      expect(open(of, distance, false, 'exponential')).to.be.closeTo(exact((share) => (1 - Math.exp(-3 * share)) / (1 - Math.exp(-3))), 0.004);
    }
    for (const falloff of FALLOFFS) expect(open(of, Infinity, false, falloff), 'without a distance nothing fades').to.equal(0);
  }); // prettier-ignore

  it('beside a wall is the segment that the distance cuts off the disc below the sky', () => {
    const away = 0.5;
    const wall = { mesh: box([-away - 0.1, -4000, 0], [-away, 4000, 4000]) };
    const of = traced(scene([floor, wall], { cameras: from([0.5, -3, 2], [0, 0, 0]) }));
    const x = of.places[0].place.point[0] + away;
    // Nusselt's analog (1928): a point of the hemisphere counts by its shadow on the disc; the wall stands where that is x/D or more.
    for (const distance of [0.7, 1.5, 6]) {
      const k = x / distance;
      expect(open(of, distance), String(distance)).to.be.closeTo(1 - (Math.acos(k) - k * Math.sqrt(1 - k * k)) / Math.PI, 0.004); // prettier-ignore
    }
    expect(open(of)).to.be.closeTo(0.5, 0.004);
  });

  it('is the renderer’s own pass, at any distance, with glass like a wall and see-through', () => {
    for (const [seeThrough, falloff] of [
      [false, 'none'],
      [true, 'none'],
      [false, 'linear'],
      [false, 'exponential'],
      [true, 'square-root'],
    ] as const) {
      // prettier-ignore
      const occlusion: Sheet['occlusion'] = { ...defaultSheet().occlusion, distance: 1.2, cone: 70, seeThrough, falloff };
      const test = scene(
        [
          floor,
          { mesh: box([-1, -1, 0.3], [1, 1, 0.31]), material: { transmission: 1, baseColour: [0.5, 0.7, 0.6], roughness: 0 } },
          { mesh: sphere(0.4), object: { transform: translation(0.5, 0.2, 0.8) } },
        ],
        { cameras: from([0, -4, 0.6], [0, 0, 0.2], 8) },
        { occlusion, passes: { occlusion: true, shadows: false, lines: false, groups: false }, extraSamples: { light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1, occlusion: 16 } },
      ); // prettier-ignore
      const of = traced(test, 256, 256);
      const ours = opennessAt(of, 1.2, { seeThrough, falloff }, new Float32Array(of.places.length));
      const film = render(test);
      const pass = pictureOf([film], film.region, ['occlusion'], compiled(test).layout).channels.get('occlusion')!;
      const mean = (values: Iterable<number>) =>
        [...values].reduce((sum, value) => sum + value, 0) / [...values].length;
      expect(mean(ours)).to.be.closeTo(mean(pass), 0.01);
      expect(mean(ours)).to.be.within(0.02, 0.98);
    }
  });

  it('of what stands behind glass is that without the glass, within 2 %, once see-through; of the glass itself it is not', () => {
    const pass = (pane: boolean, seeThrough: boolean) => {
      const glass = { mesh: box([-3, -1.52, 0.01], [3, -1.5, 3]), material: { transmission: 1, baseColour: [1, 1, 1], roughness: 0 } };
      const test = scene(
        [floor, { mesh: sphere(0.4), object: { transform: translation(0, 0, 0.42) } }, ...(pane ? [glass] : [])],
        { cameras: from([0, -4, 1.6], [0, 0, 0.3], 16) },
        { samples: 64, occlusion: { ...defaultSheet().occlusion, distance: 2, seeThrough }, passes: { occlusion: true, shadows: false, lines: false, groups: false } },
      ); // prettier-ignore
      const film = render(test);
      const values = pictureOf([film], film.region, ['occlusion'], compiled(test).layout).channels.get('occlusion')!;
      return values.reduce((sum, value) => sum + value, 0) / values.length;
    };
    const without = pass(false, true);
    expect(without).to.be.within(0.2, 0.95);
    expect(pass(true, true) / without).to.be.closeTo(1, 0.02);
    expect(Math.abs(pass(true, false) / without - 1)).to.be.above(0.05);
  }); // prettier-ignore

  it('is as noisy as its figure says: by what two renders differ, and half as much by four times the rays', () => {
    const things = [floor, ...[-0.9, 0, 0.9].map((x) => ({ mesh: box([-0.25, -0.3, 0], [0.25, 0.3, 0.7]), object: { transform: translation(x, 0.3 * x, 0) } }))]; // prettier-ignore
    const passBy = (rays: number, seed: number) => {
      const test = scene(things, { cameras: from([0, -4, 2], [0, 0, 0.2], 30) }, { samples: 16, seed, occlusion: { ...defaultSheet().occlusion, distance: 2 }, passes: { occlusion: true, shadows: false, lines: false, groups: false }, extraSamples: { ...defaultSheet().extraSamples, occlusion: rays } }); // prettier-ignore
      const film = render(test);
      return pictureOf([film], film.region, ['occlusion', 'coverage', 'samples'], compiled(test).layout);
    };
    const noiseBy = (rays: number) => {
      const pictures = [1, 2].map((seed) => passBy(rays, seed));
      const [a, b] = pictures.map(({ channels }) => channels.get('occlusion')!);
      const measured = 255 * Math.sqrt(a.reduce((sum, value, i) => sum + (value - b[i]) ** 2 / 2, 0) / a.length);
      const side: Side = { picture: pictures[0], deciding: 0, occlusionRays: rays, seconds: null, ofScene: {} }; // prettier-ignore
      return { measured, told: 'measure' in occlusionNoise ? occlusionNoise.measure(side, {} as Comparison)! : NaN };
    };
    const [one, four] = [noiseBy(1), noiseBy(4)];
    expect(one.told).to.be.within(3, 30);
    expect(four.told / one.told).to.be.closeTo(0.5, 0.03);
    // Rays that are stratified differ by less than the binomial has them, never by more.
    for (const { measured, told } of [one, four]) expect(measured / told).to.be.within(0.6, 1.05);
  });

  it('dims light at the first hit by strength, contrast and colour, of what is open to it by the closed form', () => {
    const away = 0.5;
    const aside = { camera: false, shadow: false, diffuse: false, specular: false, transmission: false, occlusion: true };
    const wall = { mesh: box([-away - 0.1, -4000, 0], [-away, 4000, 4000]), object: { visibility: aside } };
    const seen = (occlusion: Partial<Sheet['occlusion']>) => {
      const whole: Sheet['occlusion'] = { ...defaultSheet().occlusion, distance: 1.5, ...occlusion };
      const test = scene([{ ...floor, material: { baseColour: [0.5, 0.5, 0.5] } }, wall], { cameras: from([0.5, -3, 2], [0, 0, 0], 0.2), environment: { ...defaultEnvironment(), intensity: 1 } }, { samples: 256, occlusion: whole, limits: { ...defaultSheet().limits, diffuse: 1 } }); // prettier-ignore
      const film = render(test);
      const picture = pictureOf([film], film.region, ['beauty'], compiled(test).layout);
      return ['R', 'G', 'B'].map((c) => {
        const values = picture.channels.get(`beauty.${c}`)!;
        return values.reduce((sum, value) => sum + value, 0) / values.length;
      });
    };
    const k = away / 1.5;
    const open = 1 - (Math.acos(k) - k * Math.sqrt(1 - k * k)) / Math.PI;
    const plain = seen({});
    for (const [strength, contrast, colour] of [[0.2, 1, [0, 0, 0]], [1, 1, [0.5, 0.25, 0]], [1, 2, [0, 0, 0]], [0.6, 0.5, [0, 0, 0.3]]] as [number, number, number[]][]) {
      const dimmed = seen({ strength, contrast, colour });
      dimmed.forEach((value, a) => {
        const left = 1 - strength * (1 - open ** contrast) * (1 - colour[a]);
        expect(value / plain[a], `${strength} ${contrast} ${a}`).to.be.closeTo(left, 0.02);
      });
    }
  }); // prettier-ignore

  it('tells most where grey is, nothing where all is black or white, in bits', () => {
    expect(figuresOf(new Float32Array(64).fill(1), 1)).to.include({ information: 0, open: 1, shut: 0, mean: 1 });
    // Sixteen values that are as likely are four bits (Shannon 1948).
    expect(figuresOf(Float32Array.from({ length: 160 }, (_, k) => ((k % 16) + 0.5) / 16), 1).information).to.be.closeTo(4, 1e-12); // prettier-ignore
    // The same of a picture: half of it shut, half in two greys that are as likely, the last pixel without a surface.
    const pass = Float32Array.of(0, 0, 0, 0, 0.3, 0.3, 0.6, 0.6, 0);
    const coverage = Float32Array.of(1, 1, 1, 1, 1, 1, 1, 1, 0);
    const picture = { x: 0, y: 0, width: 9, height: 1, channels: new Map([['occlusion', pass], ['coverage', coverage]]) }; // prettier-ignore
    const side = { picture } as unknown as Side;
    const measured = [openness, shut, information].map((figure) => ('measure' in figure ? figure.measure(side, {} as Comparison)! : NaN)); // prettier-ignore
    expect(measured[0]).to.be.closeTo(0.225, 1e-7);
    expect(measured.slice(1)).to.deep.equal([0.5, 1.5]);
    // A half by 64 rays: the binomial's standard error is a sixteenth.
    expect(errorBy(0.5, 64)).to.equal(0.0625);
  });

  it('of a closed room is black without a distance, a line drawing at a little, and right between', async function () {
    this.timeout(60_000);
    const shot = await benchShot(buildStoreRoom, { width: 160, height: 90, samples: 4 });
    const sheet = shot.document.sheets.preview;
    const walk = new OcclusionWalk(compiled(shot), sheet);
    const of = traceDistances(walk, sheet.occlusion, placesOver(walk, sheet, 3000).places);
    const curve = occlusionCurve(of, { seeThrough: false, falloff: 'none' });
    expect(curve.unlimited.shut).to.be.above(0.98);
    // Common practice, in a room of some 500 units: a line drawing at 5, blown out at 10 to 50, right at 80 to 100: centimetres in a room of 4 by 5 m.
    const at = (metres: number) => curve.points.reduce((best, one) => (Math.abs(Math.log(one.metres / metres)) < Math.abs(Math.log(best.metres / metres)) ? one : best)); // prettier-ignore
    expect(at(0.05).open).to.be.above(0.9);
    expect(at(0.1).open).to.be.above(0.8);
    expect(at(0.5).open).to.be.above(0.5);
    expect(curve.best!.from).to.be.below(0.85);
    expect(curve.best!.to).to.be.above(1);
  });
});
