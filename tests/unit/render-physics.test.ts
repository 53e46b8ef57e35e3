/** Light transport against closed forms. Every check holds within 3 stated standard errors, seed 1. */
import { expect } from 'chai';
import { defaultCamera, defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import { lookAt, translation, rotationX } from '../../core/data/transform.ts';
import { fresnelDielectric } from '../../core/materials/fresnel.ts';
import { box } from '../../demo/shapes.ts';
import { meanOf, render, scene, sphere, square } from './helpers.ts';

function expectMean({ mean, error }: { mean: number; error: number }, exact: number) {
  expect(Math.abs(mean - exact), `mean ${mean} ± ${error}, exact ${exact}`).to.be.at.most(3 * error + 1e-5);
}

describe('light transport', () => {
  it('shows nothing of a white convex body in a white furnace (energy balance)', () => {
    for (const roughness of [0, 1]) {
      const test = scene([{ mesh: sphere(1.5), material: { baseColour: [1, 1, 1], roughness } }], {
        environment: evenEnvironment([1, 1, 1]),
      });
      const { mean, error } = meanOf(render(test, { x: 6, y: 6, width: 4, height: 4 }));
      // A rough coat may lose what single scattering loses, at most 3 % here (Heitz et al. 2016); never gain.
      if (roughness === 0) expectMean({ mean, error }, 1);
      else expect(mean).to.be.within(0.97, 1 + 3 * error);
    }
  });

  it('shows nothing of smooth and rough glass in a white furnace, beyond the single-scatter loss', () => {
    for (const [roughness, least] of [
      [0, 1],
      [0.3, 0.97],
      [0.6, 0.8],
    ]) {
      const test = scene(
        [{ mesh: sphere(1.5, 96), material: { baseColour: [1, 1, 1], transmission: 1, roughness } }],
        { environment: evenEnvironment([1, 1, 1]) },
        { samples: 128 },
      );
      const { mean, error } = meanOf(render(test, { x: 6, y: 6, width: 4, height: 4 }));
      expect(mean, `roughness ${roughness}`).to.be.within(least - 3 * error - 1e-4, 1 + 3 * error + 1e-4);
    }
  });

  it('fills a closed box of emitting grey walls with E / (1 − ρ) (energy balance)', () => {
    const albedo = 0.5;
    // ior 1 leaves the diffuse base alone.
    const test = scene(
      [
        {
          mesh: box([-1, -1, -1], [1, 1, 1]),
          material: { baseColour: [albedo, albedo, albedo], ior: 1, emission: [1, 1, 1] },
        },
      ],
      {
        cameras: {
          main: { ...defaultCamera(), name: '', transform: lookAt([0.2, 0.1, 0.6], [0, 0, -1]), fieldOfView: 60 },
        },
      },
    );
    expectMean(meanOf(render(test)), 1 / (1 - albedo));
  });

  it('lights a square under an equal opposed square at distance 1 by the form factor 0.1998 (Howell, catalog)', () => {
    // A look from half way down through a 90° lens has exactly the lower square in its frame.
    const test = scene(
      [{ mesh: square(0.5, 0), material: { baseColour: [1, 1, 1], ior: 1, roughness: 1 } }],
      {
        lights: {
          window: {
            ...defaultLight('rectangle'),
            name: '',
            width: 1,
            height: 1,
            intensity: 1,
            colour: [1, 1, 1],
            transform: translation(0, 0, 1),
          },
        },
        cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([0, 0, 0.5], [0, 0, 0]), fieldOfView: 90 } },
      },
      { filter: { kind: 'box', width: 1 }, samples: 1024 },
    );
    expectMean(meanOf(render(test)), 0.19982);
  });

  it('gives a point under a parallel rectangle its exact form factor, with and without light samples (Howell B-4)', () => {
    // Element below the corner of an a×b rectangle at height c; four corners make the centre.
    const corner = (a: number, b: number, c: number) => {
      const [x, y] = [a / c, b / c];
      const [p, q] = [Math.sqrt(1 + x * x), Math.sqrt(1 + y * y)];
      return ((x / p) * Math.atan(y / p) + (y / q) * Math.atan(x / q)) / (2 * Math.PI);
    };
    for (const [width, height, distance] of [
      [1, 1, 1],
      [0.4, 2, 0.5],
      [3, 0.2, 2],
    ]) {
      const test = scene(
        [{ mesh: square(0.001, 0), material: { baseColour: [1, 1, 1], ior: 1, roughness: 1 } }],
        {
          lights: {
            window: {
              ...defaultLight('rectangle'),
              name: '',
              width,
              height,
              intensity: 1,
              colour: [1, 1, 1],
              transform: translation(0, 0, distance),
            },
          },
          cameras: {
            main: { ...defaultCamera(), name: '', transform: lookAt([0.02, 0, 0.02], [0, 0, 0]), fieldOfView: 1 },
          },
        },
        { width: 4, height: 4, samples: 4096 },
      );
      const film = render(test);
      expectMean(meanOf(film), 4 * corner(width / 2, height / 2, distance));
      expectMean(meanOf(film, 'diffuse.direct'), 4 * corner(width / 2, height / 2, distance));
    }
  });

  it('lets (1−R)/(1+(2k−1)R) through a pile of k glass plates (Stokes 1862)', () => {
    for (const plates of [1, 3, 10]) {
      const parts = Array.from({ length: plates }, (_, k) => ({
        mesh: box([-9, -9, -k * 0.2 - 0.1], [9, 9, -k * 0.2]),
        material: { baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1 },
      }));
      const behind = {
        mesh: square(50, -5),
        material: { baseColour: [0, 0, 0], emission: [1, 1, 1], ior: 1 },
      };
      const test = scene([...parts, behind], {}, { width: 4, height: 4, samples: 1024 });
      test.document.cameras.main.fieldOfView = 0.5;
      const R = 0.04;
      expectMean(meanOf(render(test)), (1 - R) / (1 + (2 * plates - 1) * R));
    }
  });

  it('lets the mean of both polarisations through 10 plates at Brewster’s angle, 56.31° (Stokes 1862)', () => {
    const plates = 10;
    const angle = 56.31;
    const parts = Array.from({ length: plates }, (_, k) => ({
      mesh: box([-40, -40, -k * 0.02 - 0.01], [40, 40, -k * 0.02]),
      material: { baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1 },
      object: { transform: rotationX(angle) },
    }));
    const test = scene(parts, { environment: evenEnvironment([0, 0, 0]) }, { width: 4, height: 4, samples: 2048 });
    const light = { mesh: square(60, -60), material: { baseColour: [0, 0, 0], emission: [1, 1, 1], ior: 1 } };
    const whole = scene([...parts, light], {}, { width: 4, height: 4, samples: 2048 });
    whole.document.cameras = test.document.cameras;
    whole.document.cameras.main.fieldOfView = 0.5;
    const R = fresnelDielectric(Math.cos((angle * Math.PI) / 180), 1.5);
    const T = (1 - R) / (1 + (2 * plates - 1) * R);
    expect(T).to.be.closeTo(0.385, 0.001);
    expectMean(meanOf(render(whole)), T);
  });

  it('absorbs exp(−σd) per channel (Beer–Lambert, KHR_materials_volume)', () => {
    const test = scene(
      [
        {
          mesh: box([-9, -9, -0.5], [9, 9, 0]),
          material: {
            baseColour: [1, 1, 1],
            roughness: 0,
            ior: 1.0001,
            transmission: 1,
            attenuationColour: [0.5, 0.25, 1],
            attenuationDistance: 0.25,
          },
        },
        { mesh: square(50, -5), material: { baseColour: [0, 0, 0], emission: [1, 1, 1], ior: 1 } },
      ],
      {},
      { width: 2, height: 2 },
    );
    test.document.cameras.main.fieldOfView = 0.1;
    const film = render(test);
    // Twice the attenuation distance: the colour squared.
    expect(film.means[0]).to.be.closeTo(0.25, 1e-4);
    expect(film.means[1]).to.be.closeTo(0.0625, 1e-4);
    expect(film.means[2]).to.be.closeTo(1, 1e-4);
  });

  it('lets priorities decide where glass bodies overlap (Schmidt & Budge 2002)', () => {
    // A slab of index 1.5 reaches 1 mm into one of index 1.33; the higher priority makes the shared face one.
    const build = (overlap: number) =>
      scene(
        [
          {
            mesh: box([-9, -9, -1], [9, 9, 0]),
            material: { baseColour: [1, 1, 1], roughness: 0, ior: 1.5, transmission: 1 },
            object: { priority: 2 },
          },
          {
            mesh: box([-9, -9, -2], [9, 9, -1 + overlap]),
            material: { baseColour: [1, 1, 1], roughness: 0, ior: 1.33, transmission: 1 },
            object: { priority: 1 },
          },
          { mesh: square(50, -5), material: { baseColour: [0, 0, 0], emission: [1, 1, 1], ior: 1 } },
        ],
        {},
        { width: 2, height: 2, samples: 4096 },
      );
    const test = build(0.001);
    test.document.cameras.main.fieldOfView = 0.1;
    const film = render(test);
    expect(film.crossings[0]).to.equal(3);
    const reflect = (a: number, b: number) => ((a - b) / (a + b)) ** 2;
    const [A, B, C] = [reflect(1, 1.5), reflect(1.5, 1.33), reflect(1.33, 1)];
    // Incoherent transmission of two plates in contact: T over single faces with all inner reflections.
    const two = (t1: number, r1: number, t2: number, r2: number) => (t1 * t2) / (1 - r1 * r2);
    const AB = two(1 - A, A, 1 - B, B);
    const back = B + ((1 - B) ** 2 * A) / (1 - A * B);
    expectMean(meanOf(film), two(AB, back, 1 - C, C));
  });
});
