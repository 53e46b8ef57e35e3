/** Lights of every kind: units, sides, and that what shadow rays sample is what rays meet. */
import { expect } from 'chai';
import { lookAt, multiply, rotationX, rotationY, scaling, translation } from '../../core/data/transform.ts';
import { defaultLight, defaultEnvironment } from '../../core/document/defaults.ts';
import type { LightSpec } from '../../core/document/schema.ts';
import { LightSampler } from '../../core/lights/light-sampler.ts';
import { QUAD_AREA, QUAD_NORMAL, QUAD_PLACE } from '../../core/lights/quad.ts';
import { capHeight } from '../../core/lights/sphere.ts';
import { compiled, meanOf, render, scene, square } from './helpers.ts';

const rectangle = (rest: object = {}): LightSpec => ({ ...defaultLight('rectangle'), ...rest }) as LightSpec;
const tableOf = (light: LightSpec) => compiled(scene([], { lights: { light } })).lights;
const round = (values: Iterable<number>) => [...values].map((v) => Math.round(v * 1e9) / 1e9 + 0);

describe('rectangle lights', () => {
  it('stand around their place with their width along X and height along Y', () => {
    const t = tableOf(rectangle({ transform: translation(5, 6, 7), width: 2, height: 1 }));
    expect([...t.subarray(QUAD_PLACE, QUAD_PLACE + 3)]).to.deep.equal([4, 5.5, 7]);
    expect(t[QUAD_AREA]).to.equal(2);
  });

  it('shine along local −Z, turned and mirrored ones too (Conventions)', () => {
    const normal = (transform: number[]) =>
      round(tableOf(rectangle({ transform })).subarray(QUAD_NORMAL, QUAD_NORMAL + 3));
    expect(normal(translation(0, 0, 0))).to.deep.equal([0, 0, -1]);
    expect(normal(rotationY(90))).to.deep.equal([-1, 0, 0]);
    expect(normal(scaling(-1, 1, 1))).to.deep.equal([0, 0, -1]);
    expect(normal(lookAt([0, 3, 0.001], [0, 0, 0]))[1]).to.be.closeTo(-1, 1e-3);
  });

  it('grow with their transform', () => {
    const transform = multiply(rotationY(30), scaling(3, 2, 1));
    expect(tableOf(rectangle({ transform, width: 2 }))[QUAD_AREA]).to.be.closeTo(12, 1e-9);
  });

  it('are seen from the front as bright as their radiance, and are not there from behind', () => {
    const seen = (from: number) => {
      const light = rectangle({ colour: [1, 2, 3], width: 9, height: 9 });
      const test = scene([{ mesh: square(0.001, 50) }], { lights: { light } });
      test.document.cameras.main.transform = lookAt([0, 0, from], [0, 0, 0]);
      return meanOf(render(test, { x: 7, y: 7, width: 2, height: 2 }, 8), 'emission').mean;
    };
    expect(seen(-5)).to.be.closeTo(0.2126 + 2 * 0.7152 + 3 * 0.0722, 1e-5);
    expect(seen(5)).to.equal(0);
  });
});

/** Irradiance on a small white square at the origin facing +Z, from its exitant radiance: E = πL/ρ. */
function irradiance(lights: Record<string, LightSpec>, samples = 1024): { mean: number; error: number } {
  const test = scene(
    [{ mesh: square(0.05, 0), material: { baseColour: [1, 1, 1], roughness: 1, specular: 0 } }],
    { lights },
    { width: 4, height: 4, limits: { diffuse: 1, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 1 } },
  );
  test.document.cameras.main.transform = lookAt([0, 0.001, 1], [0, 0, 0]);
  test.document.cameras.main.fieldOfView = 0.1;
  const { mean, error } = meanOf(render(test, undefined, samples), 'diffuse.direct');
  return { mean: mean * Math.PI, error: error * Math.PI };
}

describe('radiometric units (Conventions)', () => {
  const lit = (light: LightSpec, expected: number, samples?: number) => {
    const { mean, error } = irradiance({ light }, samples);
    // Directions that the surface draws meet a small light too rarely to be seen in the error: their share is allowed for.
    expect(Math.abs(mean - expected), `${mean} ± ${error} against ${expected}`).to.be.at.most(
      3 * error + 1e-4 * expected,
    );
  };
  const above = translation(0, 0, 2);

  it('a point of intensity I lights with I/d² (inverse square law)', () =>
    lit({ ...defaultLight('point'), transform: above, intensity: 8 }, 2));

  it('a sphere of intensity I lights from outside as the point in its middle does (Howell B-23: cos θ r²/d²)', () =>
    lit({ ...defaultLight('point'), transform: above, intensity: 8, radius: 0.5 }, 2));

  it('a spot lights as a point within its cone, nothing outside, and between by KHR_lights_punctual: a third midway', () => {
    const spot = (tilt: number, softness = 0.5): LightSpec => ({
      ...defaultLight('spot'),
      transform: multiply(above, rotationX(tilt)),
      intensity: 8,
      cone: 40,
      softness,
    });
    lit(spot(0), 2);
    const [between, outer, inner] = [15, 20, 10].map((degrees) => Math.cos((degrees * Math.PI) / 180));
    const share = ((between - outer) / (inner - outer)) ** 2;
    expect(share).to.be.closeTo(1 / 3, 0.01);
    lit(spot(15), 2 * share);
    lit(spot(21), 0);
  });

  it('a distant light of irradiance E lights with E at normal incidence, whatever its size', () => {
    for (const angle of [0, 0.53, 40]) {
      // A wide source: each direction counts by its cosine, whose mean over the disc's projection is 1.
      lit({ ...defaultLight('distant'), intensity: 3, angle }, 3);
    }
  });

  it('a disc lights with πL r²/(r² + d²) on its axis (Howell B-13)', () =>
    lit({ ...defaultLight('disc'), transform: above, intensity: 5, radius: 1 }, (Math.PI * 5) / 5, 2048));

  it('an emissive square lights as a rectangle of its radiance does', () => {
    const expected = irradiance({ light: rectangle({ transform: above, intensity: 4, width: 1, height: 1 }) }, 2048);
    const test = scene(
      [
        { mesh: square(0.05, 0), material: { baseColour: [1, 1, 1], roughness: 1, specular: 0 } },
        { mesh: square(0.5, 0), material: { baseColour: [0, 0, 0], emission: [4, 4, 4] }, object: { transform: multiply(above, rotationY(180)), visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } } },
      ],
      {},
      { width: 4, height: 4, limits: { diffuse: 1, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 1 } },
    ); // prettier-ignore
    test.document.cameras.main.transform = lookAt([0, 0.001, 1], [0, 0, 0]);
    test.document.cameras.main.fieldOfView = 1;
    const { mean, error } = meanOf(render(test, undefined, 2048), 'diffuse.direct');
    expect(Math.abs(mean * Math.PI - expected.mean)).to.be.at.most(3 * Math.hypot(error * Math.PI, expected.error));
  });
});

/**
 * Irradiance on a patch that faces +Z from a polygon of radiance 1 above it.
 * Source: Lambert, Photometria, 1760; as in Baum, Rushmeier & Winget, "Improving Radiosity Solutions Through the Use of
 * Analytically Determined Form-Factors", 1989, equation 5.
 */
function lambert(at: number[], corners: number[][]): number {
  const unit = (v: number[]) => v.map((c) => c / Math.hypot(...v));
  const towards = corners.map((corner) => unit(corner.map((c, a) => c - at[a])));
  let sum = 0;
  towards.forEach((p, i) => {
    const q = towards[(i + 1) % corners.length];
    const cross = [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
    const angle = Math.atan2(Math.hypot(...cross), p[0] * q[0] + p[1] * q[1] + p[2] * q[2]);
    sum += (angle * cross[2]) / Math.hypot(...cross);
  });
  return Math.abs(sum) / 2;
}

describe('lights at grazing angles', () => {
  // A square of 1 m, half a metre over the floor: as an emissive mesh, whose own face shadow rays must not meet, and as lights.
  const HEIGHT = 0.5;
  const over = translation(0, 0, HEIGHT);
  const corners = [[-0.5, -0.5, HEIGHT], [0.5, -0.5, HEIGHT], [0.5, 0.5, HEIGHT], [-0.5, 0.5, HEIGHT]]; // prettier-ignore
  const unseen = { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true };
  const mesh = {
    mesh: square(0.5, 0),
    material: { baseColour: [0, 0, 0] as [number, number, number], emission: [1, 1, 1] as [number, number, number] },
    object: { transform: multiply(over, rotationY(180)), visibility: unseen },
  };
  const disc = { ...defaultLight('disc'), transform: over, radius: 0.5, intensity: 1 } as LightSpec;
  const polygon = Array.from({ length: 256 }, (_, k) => [0.5 * Math.cos((k * Math.PI) / 128), 0.5 * Math.sin((k * Math.PI) / 128), HEIGHT]); // prettier-ignore
  const cases: [string, Parameters<typeof scene>[0], Record<string, LightSpec>, number[][]][] = [
    ['an emissive mesh', [mesh], {}, corners],
    ['a rectangle', [], { light: rectangle({ transform: over, width: 1, height: 1, intensity: 1 }) }, corners],
    ['a disc', [], { light: disc }, polygon],
  ];
  for (const precision of ['double', 'single'] as const)
    for (const [name, parts, lights, outline] of cases)
      it(`${name} lights the floor as Lambert’s formula has it up to 85° off its middle, ${precision} precision`, () => {
        for (const angle of [0, 40, 63, 72, 76, 81, 85]) {
          const x = HEIGHT * Math.tan((angle * Math.PI) / 180);
          const floor = { mesh: square(0.05, 0), material: { baseColour: [1, 1, 1] as [number, number, number], roughness: 1, specular: 0 }, object: { transform: translation(x, 0, 0) } }; // prettier-ignore
          const test = scene([floor, ...parts], { lights }, { width: 4, height: 4, precision, limits: { diffuse: 1, specular: 0, transmission: 0, volume: 0, alpha: 0, overall: 1 } }); // prettier-ignore
          test.document.cameras.main.transform = lookAt([x, 0.001, 1], [x, 0, 0]);
          test.document.cameras.main.fieldOfView = 0.1;
          const { mean, error } = meanOf(render(test, undefined, 512), 'diffuse.direct');
          const expected = lambert([x, 0, 0], outline);
          const share = (mean * Math.PI) / expected;
          expect(Math.abs(share - 1), `${angle}°: ${share} of the right value`).to.be.at.most(
            (4 * error * Math.PI) / expected + 2e-3,
          );
        }
      });
});

describe('lights that are aimed at and met', () => {
  const kinds: [string, LightSpec][] = [
    ['sphere', { ...defaultLight('point'), radius: 0.4, transform: translation(0.3, 0.2, 2) }],
    ['spot', { ...defaultLight('spot'), radius: 0.3, cone: 60, softness: 0.7, transform: translation(0.5, 0, 2) }],
    ['distant', { ...defaultLight('distant'), angle: 30 }],
    ['rectangle', rectangle({ transform: multiply(translation(0.2, 0.1, 1), rotationY(20)), width: 2, height: 0.5 })],
    ['skewed rectangle', rectangle({ transform: [1, 0, 0, 0, 0.6, 1, 0, 0, 0, 0, 1, 0, 0, 0, 2, 1] })],
    ['disc', { ...defaultLight('disc'), radius: 0.7, transform: translation(0, 0.4, 1.5) }],
  ];
  for (const [name, light] of kinds)
    it(`${name}: each direction that is drawn is met, with the same density and radiance`, () => {
      const compiledScene = compiled(scene([], { lights: { light } }));
      const [aimed, met] = [new LightSampler(compiledScene), new LightSampler(compiledScene)];
      const ray = new Float64Array(6);
      let seen = 0;
      for (let i = 0; i < 400; i++) {
        const [u, v] = [(i + 0.5) / 400, (i * 0.618034) % 1];
        if (!aimed.aim(0, 0, 0, 0, u, v)) continue;
        ray.set(aimed.direction, 3);
        const t = light.kind === 'distant' ? Infinity : met.hitBody(0, ray);
        // A direction to the very edge may miss by rounding.
        if (light.kind !== 'distant' && t === Infinity) continue;
        expect(met.meet(0, ray, t)).to.equal(true);
        seen++;
        if (t < Infinity) expect(t).to.be.closeTo(aimed.distance, 1e-6);
        expect(met.density / aimed.density).to.be.closeTo(1, 1e-6);
        for (let a = 0; a < 3; a++) expect(met.radiance[a]).to.be.closeTo(aimed.radiance[a], 1e-9);
      }
      expect(seen).to.be.greaterThan(300);
    });

  it('sphere: 1 − cos of half its angle keeps its digits for the smallest (series: s²/2)', () => {
    expect(capHeight(1e-6, 1) / 5e-13).to.be.closeTo(1, 1e-9);
    expect(capHeight(1, 4)).to.be.closeTo(1 - Math.sqrt(3) / 2, 1e-15);
  });
});

describe('what is unusual about lights', () => {
  it('one without area gives no light, no NaN and a warning', () => {
    const test = scene([{ mesh: square(2, 0) }], {
      lights: { flat: rectangle({ width: 0, transform: translation(0, 0, 2) }) },
    });
    expect(compiled(test).warnings.join()).to.match(/"flat" has no area/);
    expect(meanOf(render(test, undefined, 8)).mean).to.equal(0);
  });

  it('an environment without light is not aimed at', () => {
    const test = scene([{ mesh: square(2, 0) }], {
      environment: { ...defaultEnvironment(), kind: 'gradient', intensity: 1, stops: [{ at: 0, colour: [0, 0, 0] }] },
    });
    expect(meanOf(render(test, undefined, 8)).mean).to.equal(0);
  });
});
