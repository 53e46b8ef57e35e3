/** What films promise: the same bits however they were made, passes that add up, limits that count as stated. */
import { expect } from 'chai';
import {
  defaultCamera,
  defaultFog,
  defaultLight,
  defaultSheet,
  evenEnvironment,
} from '../../core/document/defaults.ts';
import { lookAt, translation } from '../../core/data/transform.ts';
import { createFilm, packFilm, unpackFilm } from '../../core/render/film/film.ts';
import { CUTS, LIGHT_PASSES, MEAN_CUT, MEANS } from '../../core/render/film/passes.ts';
import { renderGroups, tilesOf } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, sphere, square } from './helpers.ts';

/** Glass, metal and a matt floor under a rectangle light: every pass has something in it. */
function mixed(sheet = {}, environment = [0.1, 0.2, 0.3]) {
  return scene(
    [
      { mesh: box([-3, -1.2, -3], [3, -1, 3]), material: { baseColour: [0.6, 0.5, 0.4], roughness: 0.5 } },
      {
        mesh: sphere(0.6),
        material: { baseColour: [1, 1, 1], transmission: 1, roughness: 0.2 },
        object: { transform: translation(-0.7, -0.4, 0) },
      },
      {
        mesh: sphere(0.6),
        material: { baseColour: [0.9, 0.8, 0.6], metallic: 1, roughness: 0.1 },
        object: { transform: translation(0.7, -0.4, 0) },
      },
      {
        mesh: sphere(0.2),
        material: { emission: [2, 1, 1] },
        object: { transform: translation(0, 0.7, -0.5) },
      },
    ],
    {
      lights: {
        window: {
          ...defaultLight('rectangle'),
          name: '',
          width: 2,
          height: 2,
          intensity: 1,
          colour: [2, 2, 2],
          transform: lookAt([0.3, 1.5, 1], [0, 0, -0.2]),
        },
      },
      environment: evenEnvironment(environment),
      fog: { ...defaultFog(), density: 0.05, box: { min: [-3, -1, -3], max: [3, 2, 3] } },
      cameras: {
        main: { ...defaultCamera(), name: '', transform: lookAt([0, 0.3, 5], [0, -0.2, 0]), fieldOfView: 40 },
      },
    },
    { width: 24, height: 20, samples: 16, ...sheet },
  );
}

function maxSumError(means: Float32Array, without = -1): number {
  let worst = 0;
  for (let i = 0; i < means.length; i += MEANS)
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let p = 1; p < LIGHT_PASSES.length; p++) if (p !== without) sum += means[i + p * 3 + c];
      const beauty = means[i + c];
      worst = Math.max(worst, Math.abs(sum - beauty) / Math.max(beauty, 1e-6));
    }
  return worst;
}

describe('film', () => {
  it('has the same bits when stopped, packed and continued as in one go', () => {
    const test = mixed();
    const whole = render(test, undefined, 32);
    const scene = compiled(test);
    const settings = settingsOf(test.document.sheets.preview);
    let film = createFilm(whole.region);
    for (const groups of [1, 3, 3, 8]) {
      renderGroups(scene, settings, film, groups);
      film = unpackFilm(packFilm(film));
    }
    expect(Buffer.from(packFilm(film)).equals(Buffer.from(packFilm(whole)))).to.equal(true);
  });

  it('gives a region the bits of the full frame’s crop, whatever the tiles', () => {
    const test = mixed();
    const full = render(test);
    const region = { x: 5, y: 3, width: 13, height: 11 };
    for (const tile of tilesOf(region, 8)) {
      const part = render(test, tile);
      for (let y = 0; y < tile.height; y++)
        for (let x = 0; x < tile.width; x++) {
          const a = (y * tile.width + x) * MEANS;
          const b = ((tile.y + y) * full.region.width + tile.x + x) * MEANS;
          expect([...part.means.subarray(a, a + MEANS)]).to.deep.equal([...full.means.subarray(b, b + MEANS)]);
        }
    }
    expect(tilesOf(region, 8).reduce((n, t) => n + t.width * t.height, 0)).to.equal(13 * 11);
  });

  it('has light passes that add up to the beauty, and none that could be dropped', () => {
    const film = render(mixed());
    expect(maxSumError(film.means)).to.be.below(1e-4);
    for (let p = 1; p < LIGHT_PASSES.length; p++)
      expect(maxSumError(film.means, p), `without ${LIGHT_PASSES[p]}`).to.be.above(1e-2);
  });

  it('keeps its mean when samples of a kind are added, and loses noise in that pass', () => {
    for (const [kind, pass] of [
      ['diffuse', 'diffuse.indirect'],
      ['specular', 'specular.indirect'],
      ['light', 'diffuse.direct'],
    ] as const) {
      const extraSamples = { ...defaultSheet().extraSamples, [kind]: 8 };
      // The environment is met by sampled directions, which light samples do not help.
      const environment = kind === 'light' ? [0, 0, 0] : undefined;
      const one = render(mixed({ samples: 64 }, environment));
      const many = render(mixed({ samples: 64, extraSamples }, environment));
      const [a, b] = [meanOf(one), meanOf(many)];
      expect(Math.abs(a.mean - b.mean), kind).to.be.below(3 * Math.hypot(a.error, b.error));
      expect(meanOf(many, pass).error, kind).to.be.below(0.85 * meanOf(one, pass).error);
    }
  });

  it('changes no other random number when one limit changes: passes that do not need it keep their bits', () => {
    const a = render(mixed());
    const b = render(
      mixed({ limits: { diffuse: 64, specular: 64, transmission: 1, volume: 2, alpha: 16, overall: 200 } }),
    );
    const p = LIGHT_PASSES.indexOf('diffuse.direct') * 3;
    let cut = 0;
    for (let i = 0; i < a.means.length; i += MEANS) {
      expect(a.means[i + p]).to.equal(b.means[i + p]);
      cut += b.means[i + MEAN_CUT + CUTS.indexOf('transmission')];
    }
    expect(cut).to.be.above(0);
  });

  it('rejects bytes that are not a whole film', () => {
    const bytes = packFilm(createFilm({ x: 0, y: 0, width: 4, height: 4 }));
    expect(() => unpackFilm(bytes.subarray(0, 100))).to.throw(RangeError, 'not whole');
    expect(() => unpackFilm(bytes.subarray(0, 10))).to.throw(RangeError, 'no whole header');
  });
});

describe('limits', () => {
  /** `slabs` glass slabs before a lit wall; the light stands between them and the wall. */
  function pile(slabs: number, limits: object) {
    const test = scene(
      [
        ...Array.from({ length: slabs }, (_, k) => ({
          mesh: box([-9, -9, 1 + k * 0.2], [9, 9, 1.1 + k * 0.2]),
          material: { baseColour: [1, 1, 1], roughness: 0, ior: 1.0000001, transmission: 1 },
        })),
        { mesh: square(50, 0), material: { baseColour: [0.5, 0.5, 0.5], ior: 1, roughness: 1 } },
      ],
      {
        lights: {
          window: {
            ...defaultLight('rectangle'),
            name: '',
            width: 1,
            height: 1,
            intensity: 1,
            colour: [9, 9, 9],
            transform: lookAt([0.8, 0, 0.8], [0, 0, 0]),
          },
        },
      },
      {
        width: 4,
        height: 4,
        samples: 16,
        limits: { diffuse: 4, specular: 4, transmission: 64, volume: 2, alpha: 16, overall: 200, ...limits },
      },
    );
    test.document.cameras.main.fieldOfView = 0.5;
    return render(test);
  }
  const cutOf = (film: ReturnType<typeof pile>, name: string) => {
    let sum = 0;
    for (let i = 0; i < 16; i++) sum += film.means[i * MEANS + MEAN_CUT + CUTS.indexOf(name as 'any')] / 16;
    return sum;
  };

  it('need transmission 20 and overall 21 to look through twenty faces at a lit wall (Conventions)', () => {
    const enough = { diffuse: 1, transmission: 20, volume: 2, alpha: 16, overall: 21 };
    const lit = meanOf(pile(10, enough)).mean;
    expect(lit).to.be.above(0.1);
    expect(pile(10, enough).crossings[0]).to.equal(20);
    expect(meanOf(pile(10, { ...enough, transmission: 19 })).mean).to.equal(0);
    expect(meanOf(pile(10, { ...enough, overall: 20 })).mean).to.equal(0);
    expect(meanOf(pile(10, { ...enough, diffuse: 0 })).mean).to.equal(0);
  });

  it('note what they ended, each in its pass and once in any', () => {
    const both = pile(10, { transmission: 19, volume: 2, alpha: 16, overall: 19 });
    expect(cutOf(both, 'transmission')).to.be.closeTo(1, 1e-6);
    expect(cutOf(both, 'overall')).to.be.closeTo(1, 1e-6);
    expect(cutOf(both, 'any')).to.be.closeTo(1, 1e-6);
    const hidden = pile(10, { transmission: 12, volume: 2, alpha: 16, overall: 10 });
    expect(cutOf(hidden, 'transmission')).to.equal(0);
    expect(cutOf(hidden, 'overall')).to.be.closeTo(1, 1e-6);
  });

  it('count direct light with its event: diffuse 1 has no indirect light', () => {
    const film = pile(0, { diffuse: 1 });
    expect(meanOf(film, 'diffuse.direct').mean).to.be.above(0.1);
    expect(meanOf(film, 'diffuse.indirect').mean).to.equal(0);
  });
});
