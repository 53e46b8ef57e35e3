/** Lights that are chosen rather than sampled each: the chances, and that light still adds up. */
import { expect } from 'chai';
import { lookAt, multiply, rotationX, rotationY, translation } from '../../core/data/transform.ts';
import { defaultCamera, defaultLight } from '../../core/document/defaults.ts';
import type { LightSpec } from '../../core/document/schema.ts';
import { LightChoice } from '../../core/lights/light-choice.ts';
import { compiled, meanOf, render, scene, sphere, square } from './helpers.ts';
import { randomNumbers } from './size.ts';

/** Lights of every kind, all over a room of 4 m. */
function manyLights(count: number): Record<string, LightSpec> {
  const random = randomNumbers(11);
  const at = () => translation((random() - 0.5) * 4, 0.5 + random(), (random() - 0.5) * 4);
  const make = (k: number): LightSpec => {
    const colour: [number, number, number] = [random() + 0.1, random() + 0.1, random() + 0.1];
    switch (k % 5) {
      case 0:
        return { ...defaultLight('point'), colour, intensity: random(), radius: 0.1, transform: at() } as LightSpec;
      case 1:
        return { ...defaultLight('point'), colour, intensity: random(), radius: 0, transform: at() } as LightSpec;
      case 2:
        return { ...defaultLight('rectangle'), colour, intensity: random() * 4, width: 0.5, height: 0.3, transform: multiply(at(), rotationX(-60 - 60 * random())) } as LightSpec; // prettier-ignore
      case 3:
        return { ...defaultLight('spot'), colour, intensity: random() * 2, radius: 0.05, cone: 70, transform: multiply(at(), rotationX(-90)) } as LightSpec; // prettier-ignore
      default:
        return { ...defaultLight('distant'), colour, intensity: random() * 0.2, angle: 20, transform: multiply(rotationY(360 * random()), rotationX(-50)) } as LightSpec; // prettier-ignore
    }
  };
  return Object.fromEntries(Array.from({ length: count }, (_, k) => [`light${String(k).padStart(3, '0')}`, make(k)]));
}

describe('choosing one of many lights', () => {
  it('picks each as often as it says it does, and its chances add up to 1', () => {
    const all = compiled(scene([{ mesh: square(2, 0) }], { lights: manyLights(40) }));
    const choice = new LightChoice(all, null, 0);
    const random = randomNumbers(5);
    for (const [x, y, z] of [
      [0, 0, 0],
      [1.5, 0.2, -1],
      [-30, 2, 4],
    ]) {
      // prettier-ignore
      const picked = new Float64Array(all.lightCount);
      const draws = 40_000;
      for (let k = 0; k < draws; k++) {
        const light = choice.pick(random(), x, y, z, -1);
        if (light < 0) continue;
        picked[light]++;
        expect(choice.chanceOf(light, x, y, z, -1)).to.be.closeTo(choice.chance, 1e-12);
      }
      const chances = Array.from(picked, (_, light) => choice.chanceOf(light, x, y, z, -1));
      const lost = 1 - chances.reduce((sum, chance) => sum + chance, 0);
      // What is left goes to rectangles that look away, and lights nothing.
      expect(lost).to.be.within(-1e-9, 0.5);
      chances.forEach((chance, light) => {
        const error = Math.sqrt((chance * (1 - chance)) / draws);
        expect(Math.abs(picked[light] / draws - chance), `light ${light}`).to.be.at.most(5 * error + 1e-9);
      });
    }
  });

  it('prefers what is near and bright: of two equal points it is the inverse square that decides', () => {
    const point = (x: number) => ({ ...defaultLight('point'), transform: translation(x, 0, 0), intensity: 1 });
    const { lightTree, ...rest } = compiled(scene([{ mesh: square(1, 0) }], { lights: { a: point(-1), b: point(3) } }));
    const choice = new LightChoice({ ...rest, lightTree }, null, 0);
    expect(choice.chanceOf(0, 0, 0, 0, -1)).to.be.closeTo(9 / 10, 1e-12);
    expect(choice.chanceOf(1, 0, 0, 0, -1)).to.be.closeTo(1 / 10, 1e-12);
  });

  it('tells a light that asks for samples of its own among too many that it does not get them', () => {
    const lights = manyLights(20);
    lights.light003 = { ...lights.light003, samples: 4 };
    const { warnings } = compiled(scene([{ mesh: square(2, 0) }], { lights }));
    expect(warnings.join()).to.match(/Light "light003" asks for 4 samples .* of 20 lights 16 are chosen/);
  });

  it('brings the light of all of them together (light adds up)', function () {
    this.timeout(60_000);
    const lights = manyLights(20);
    const seen = (some: Record<string, LightSpec>, samples: number) => {
      const test = scene(
        [
          { mesh: square(2, 0), material: { baseColour: [0.7, 0.7, 0.7], roughness: 1, specular: 0 }, object: { transform: rotationX(-90) } },
          { mesh: sphere(0.4), material: { baseColour: [0.8, 0.8, 0.8], roughness: 0.4, metallic: 1 }, object: { transform: translation(0.5, 0.4, 0) } },
          { mesh: sphere(0.3), material: { baseColour: [0.9, 0.9, 0.9], roughness: 1 }, object: { transform: translation(-0.6, 0.3, 0.3) } },
        ],
        { lights: some },
        { width: 16, height: 12 },
      ); // prettier-ignore
      test.document.cameras.main = {
        ...defaultCamera(),
        name: '',
        transform: lookAt([0, 2, 4], [0, 0.2, 0]),
        fieldOfView: 45,
      };
      return meanOf(render(test, undefined, samples));
    };
    const together = seen(lights, 1024);
    let sum = 0;
    let variance = 0;
    const names = Object.keys(lights);
    // Two at a time each is sampled on its own.
    for (let k = 0; k < names.length; k += 2) {
      const pair = Object.fromEntries(names.slice(k, k + 2).map((name) => [name, lights[name]]));
      const { mean, error } = seen(pair, 384);
      sum += mean;
      variance += error * error;
    }
    const error = Math.sqrt(variance + together.error * together.error);
    expect(Math.abs(together.mean - sum), `${together.mean} against ${sum} ± ${error}`).to.be.at.most(3 * error);
    expect(error / sum).to.be.below(0.02);
  });
});
