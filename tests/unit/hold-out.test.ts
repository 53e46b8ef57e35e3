/**
 * Two renders that hold each other out are the picture that one gives: sample by sample, for both have its random numbers.
 * Source: Porter & Duff 1984: (A out B) plus (B out A) is the whole where both are opaque.
 */
import { expect } from 'chai';
import { channel, type Picture } from '../../core/data/picture.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import { defaultBackground, defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import { holdOutPair } from '../../core/document/hold-out.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { LIGHT_PASSES } from '../../core/render/film/passes.ts';
import { addFilm } from '../../core/render/film/put-together.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, render, scene, sphere, square, type TestScene } from './helpers.ts';

const REGION = { x: 0, y: 0, width: 24, height: 24 };
const PASSES = [...LIGHT_PASSES, 'coverage', 'depth', 'object', 'normal'];

/** A mirror ball, a glass one and a box that glows on a floor, under a lamp that is seen in front of them. */
function still(): TestScene {
  return scene(
    [
      { mesh: square(4, 0), material: { baseColour: [0.4, 0.5, 0.6], roughness: 0.7 } },
      { mesh: sphere(0.5), material: { metallic: 1, roughness: 0.1 }, object: { transform: translation(-0.6, 0, 0.5) } },
      { mesh: sphere(0.4), material: { transmission: 1, roughness: 0 }, object: { transform: translation(0.5, -0.3, 0.4) } },
      { mesh: box([0.3, 0.5, 0], [0.9, 1, 0.4]), material: { emission: [2, 1, 0.5] } },
    ],
    {
      environment: evenEnvironment([0.3, 0.4, 0.5]),
      background: { ...defaultBackground(), colour: [0.9, 0.1, 0.1] },
      lights: { lamp: { ...defaultLight('point'), radius: 0.15, intensity: 3, transform: translation(0, -1.4, 1) } },
      cameras: { main: { ...scene([]).document.cameras.main, transform: lookAt([0, -4, 1.6], [0, 0, 0.3]), fieldOfView: 34 } },
    },
    { width: 24, height: 24, samples: 16 },
  );
} // prettier-ignore

const changed = (test: TestScene, values: ControlValues): TestScene => ({ ...test, document: withValues(test.document, ['preview'], values) }); // prettier-ignore

function together(test: TestScene, objects: string[], more: ControlValues = {}): Picture {
  const { rest, alone } = holdOutPair(test.document, objects);
  const film = render(changed(test, rest), REGION, 16);
  addFilm(film, render(changed(test, { ...alone, ...more }), REGION, 16));
  return pictureOf([film], REGION, PASSES, compiled(test).layout);
}

const objectsOf = (test: TestScene) => Object.keys(test.document.objects);

describe('two renders that hold each other out', () => {
  it('add up to the whole in every pass: mirrors, glass, what glows, a lamp in front, and the background', () => {
    const test = still();
    const whole = pictureOf([render(test, REGION, 16)], REGION, PASSES, compiled(test).layout);
    expect(Math.max(...channel(whole, 'emission.R')), 'the lamp is seen').to.be.above(1);
    for (const chosen of [[1], [2], [3], [1, 2]]) {
      const picture = together(
        test,
        chosen.map((n) => objectsOf(test)[n]),
      );
      for (const [name, plane] of whole.channels) {
        if (name === 'object') continue;
        const own = channel(picture, name);
        plane.forEach((value, i) => expect(own[i], `${name} at ${i}, ${chosen.join()} held out`).to.be.closeTo(value, 2e-5 * Math.max(1, Math.abs(value)))); // prettier-ignore
      }
      const same = channel(picture, 'object').filter((id, i) => id === channel(whole, 'object')[i]).length;
      expect(same / REGION.width / REGION.height, 'objects').to.be.above(0.95);
    }
  });

  it('leave all as it is where the chosen objects are not, whatever is set for them', () => {
    const test = still();
    const [, mirror] = objectsOf(test);
    const plain = together(test, [mirror]);
    const clamped = together(test, [mirror], { '/clamps/indirect': 0.05, '/clamps/direct': 0.05 });
    const own = objectsOf(test).indexOf(mirror) + 1;
    let [changes, others] = [0, 0];
    channel(plain, 'object').forEach((id, i) => {
      const differs = channel(plain, 'beauty.G')[i] !== channel(clamped, 'beauty.G')[i];
      if (id === own) changes += Number(differs);
      else if (differs) others += 1;
    });
    expect(changes).to.be.above(20);
    // Pixels on its edge have samples of both.
    expect(others).to.be.below(changes / 2);
  });

  it('are refused with why: fog, no such object, what is no surface, nothing at all', () => {
    const { document } = still();
    const [floor, mirror] = Object.keys(document.objects);
    expect(() => holdOutPair(document, ['nobody'])).to.throw(RangeError, 'no object "nobody"');
    expect(() => holdOutPair(document, [])).to.throw(RangeError, 'one at least');
    document.objects[floor].role = 'shadow-only';
    expect(() => holdOutPair(document, [floor])).to.throw(RangeError, 'ordinary surfaces');
    document.fog = { density: 1 } as never;
    expect(() => holdOutPair(document, [mirror])).to.throw(RangeError, 'fog');
  });

  it('may have more samples in one: errors are those of independent parts, as statistics of the two tell', () => {
    const test = still();
    const [, mirror] = objectsOf(test);
    const { rest, alone } = holdOutPair(test.document, [mirror]);
    const { layout } = compiled(test);
    const [a, b] = [render(changed(test, rest), REGION, 8), render(changed(test, alone), REGION, 32)];
    const [first, second] = [a, b].map((film) => pictureOf([film], REGION, ['beauty', 'error.beauty', 'cost'], layout));
    addFilm(a, b);
    const both = pictureOf([a], REGION, ['beauty', 'error.beauty', 'samples', 'cost'], layout);
    const off = (name: string, expected: (i: number) => number) =>
      Math.max(...channel(both, name).map((value, i) => Math.abs(value - expected(i))));
    expect(off('error.beauty', (i) => Math.hypot(channel(first, 'error.beauty')[i], channel(second, 'error.beauty')[i]))).to.be.below(1e-5); // prettier-ignore
    expect(off('beauty.R', (i) => channel(first, 'beauty.R')[i] + channel(second, 'beauty.R')[i])).to.be.below(1e-5);
    // Four times the samples in the second: its rays count four times for each of the first.
    expect(off('cost', (i) => channel(first, 'cost')[i] + 4 * channel(second, 'cost')[i])).to.be.below(1e-3);
    expect(channel(both, 'samples')[0]).to.equal(8);
  });

  it('are of the same pixels and passes', () => {
    const test = still();
    const film = render(test, REGION, 16);
    expect(() => addFilm(film, render(test, { ...REGION, width: 8 }, 16))).to.throw(RangeError, 'same pixels');
  });
});
