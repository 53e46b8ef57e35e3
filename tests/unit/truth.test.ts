/** Figures that are true where it is easy to be wrong: places chosen for their noise, errors nobody knows, facets by the mesh. */
import { expect } from 'chai';
import { grainOf, visibleGrain } from '../../core/data/grain.ts';
import type { Picture } from '../../core/data/picture.ts';
import { noisiest } from '../../core/diagnose/noise/noisiest.ts';
import { isFaceted } from '../../core/diagnose/normals/facets.ts';
import { choosing, measuredIn } from '../../core/picture/halves.ts';
import { withKnownErrors } from '../../core/picture/known-errors.ts';
import { box } from '../../demo/shapes.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, renderShot, tryRemedy, valuesOf, type BenchShot } from './bench-shot.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { sidesOf } from '../../core/figures/effect.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { sphere, square } from './helpers.ts';
import { randomNumbers } from './size.ts';

const shotOf = async (
  sheet: Partial<Sheet>,
  change: (document: ShotDocument) => void = () => {},
): Promise<BenchShot> => {
  const { document, files } = await smallShot('TRUE', sheet);
  change(document);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, 'x') };
};

describe('a place that was chosen for its noise', () => {
  it('is measured without what chance brought there: 60 pictures whose noise is the same everywhere', () => {
    const [width, height] = [80, 60];
    const random = randomNumbers(5);
    const [all, half]: number[][] = [[], []];
    for (let run = 0; run < 60; run++) {
      // Errors that are themselves told by few groups: heavy-tailed, as those of a film are.
      const sigma = Float32Array.from({ length: width * height }, () => 0.002 / Math.sqrt(random() + 0.01));
      const y = new Float32Array(width * height).fill(0.1);
      const picture: Picture = { x: 0, y: 0, width, height, channels: new Map() };
      const visible = y.map((value, i) => visibleGrain(value, sigma[i]));
      const whole = grainOf(y, sigma);
      const biased = noisiest(picture, visible);
      const at = (x: number, k: number) => (k + biased.y) * width + biased.x + x;
      const inside = Array.from({ length: biased.width * biased.height }, (_, i) => sigma[at(i % biased.width, Math.floor(i / biased.width))]);
      all.push(grainOf(new Float32Array(inside.length).fill(0.1), inside) / whole);
      const [ys, sigmas] = measuredIn(picture, noisiest(picture, choosing(picture, visible)), y, sigma);
      half.push(grainOf(ys, sigmas) / whole);
    }
    const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
    expect(mean(all), 'the same pixels choose and are measured').to.be.above(1.1);
    expect(mean(half)).to.be.within(0.97, 1.03);
  }); // prettier-ignore
});

describe('one group of samples', function () {
  this.timeout(60_000);

  it('has an error that is estimated from the picture, near what more groups tell', async () => {
    const shot = await shotOf({ samples: 4 }, (document) => {
      for (const id of ['pane0', 'pane1', 'pane2']) delete document.objects[id];
      Object.assign(document.lights.window, { width: 6, height: 6, intensity: 0.05 });
    });
    const one = renderShot(shot);
    expect(one.channels.get('error.beauty')!.every((sigma) => sigma === 0)).to.equal(true);
    const rms = (plane: Float32Array, times: number) => Math.sqrt(plane.reduce((sum, v) => sum + v * v, 0) / plane.length) * times; // prettier-ignore
    const told = rms(withKnownErrors(one).channels.get('error.beauty')!, 1);
    const truth = rms(renderShot(shot, { '/samples': 256 }).channels.get('error.beauty')!, Math.sqrt(64));
    expect(told / truth).to.be.within(0.75, 1.25);
    const known = renderShot(shot, { '/samples': 16 });
    expect(withKnownErrors(known), 'what is known stays').to.equal(known);
  });

  it('is found to be noisy, with a sentence that says how it is known', async () => {
    const shot = await shotOf({ samples: 4, grainTarget: 1 });
    const of = examine(shot).find(({ finding }) => finding.key === 'noise')!;
    expect(of.finding.why).to.match(/One group of samples has no error of its own/);
    const remedy = of.finding.remedies.find(({ id }) => id === 'half') ?? of.finding.remedies[0];
    expect(Number(valuesOf(remedy)['/samples'])).to.be.above(4);
    expect(sidesOf(tryRemedy(shot, of, remedy), 'noise').before, 'a trial of it tells one, too').to.be.above(1);
  });
});

describe('facets', () => {
  it('are those of a curved surface in flat pieces, and not of boxes, plates or smooth balls', () => {
    expect(isFaceted(sphere(1, 24, true), false)).to.equal(true);
    expect(isFaceted(sphere(1, 24), true), 'smooth normals that are not used').to.equal(true);
    expect(isFaceted(sphere(1, 24), false)).to.equal(false);
    expect(isFaceted(box([-1, -1, -1], [1, 1, 1]), false)).to.equal(false);
    expect(isFaceted(box([-1, -1, -1], [1, 1, 1]), true)).to.equal(false);
    expect(isFaceted(square(1, 0), true)).to.equal(false);
    // A cut stone: eight faces that meet at 70.5° (the octahedron's dihedral angle is 109.5°).
    const stone = sphere(1, 4, true);
    expect(isFaceted(stone, true)).to.equal(false);
  });
});

describe('a frame that gets no light', function () {
  this.timeout(60_000);
  const cases: [string, string, (document: ShotDocument) => void][] = [
    ['no light at all', 'lighting.nothing-lights', (document) => (document.lights = {})],
    ['a light at zero', 'lighting.light-at-zero', (document) => (document.lights.window.intensity = 0)],
    ['a hidden light', 'lighting.light-hidden', (document) => (document.lights.window.hidden = true)],
    ['a light linked to nothing', 'lighting.linked-away', (document) => (document.lights.window.lights = { mode: 'only', objects: [] })],
    ['a camera that looks away', 'lighting.nothing-in-view', (document) => (document.cameras.main.transform[14] = -40)],
  ]; // prettier-ignore
  for (const [name, cause, plant] of cases)
    it(`is a stop with its cause: ${name}`, async () => {
      const shot = await shotOf({ samples: 16 }, (document) => {
        document.environment.intensity = 0;
        plant(document);
      });
      const [first] = examine(shot);
      expect(first.finding).to.include({ cause, severity: 'stop' });
      const [remedy] = first.finding.remedies;
      if (remedy) expect(sidesOf(tryRemedy(shot, first, remedy), 'brightness').after).to.be.above(-12);
      expect(remedy !== undefined).to.equal(cause !== 'lighting.nothing-in-view');
    });

  it('is told where it shows the background alone, and not where one object is in view', async () => {
    const empty = await shotOf({ samples: 16 }, (document) => (document.objects = {}));
    const [{ finding }] = examine(empty);
    expect(finding).to.include({ cause: 'lighting.nothing-in-view', severity: 'caution', sentence: 'The camera sees no object: all of the frame is background.' }); // prettier-ignore
    const pane = await shotOf({ samples: 16 }, (document) => (document.objects = { pane0: document.objects.pane0 }));
    expect(examine(pane).map(({ finding: { cause } }) => cause)).not.to.include('lighting.nothing-in-view');
  });
});
