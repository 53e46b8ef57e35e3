/** Controls of lights and objects, each against what geometry or optics say it must do. */
import { expect } from 'chai';
import { lookAt, multiply, rotationY, translation } from '../../core/data/transform.ts';
import {
  defaultBackground,
  defaultCamera,
  defaultFog,
  defaultLight,
  defaultMap,
  defaultObject,
  evenEnvironment,
} from '../../core/document/defaults.ts';
import type { LightSpec, ObjectSpec, Sheet, ShotDocument } from '../../core/document/schema.ts';
import { fresnelDielectric } from '../../core/materials/fresnel.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { channel } from '../../core/data/picture.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, sphere, square, type TestScene } from './helpers.ts';

const WHITE = { baseColour: [1, 1, 1], roughness: 1, specular: 0 };
const CLEAR = { baseColour: [1, 1, 1], roughness: 0, transmission: 1, ior: 1.5 };
const DIRECT = { diffuse: 1, specular: 8, transmission: 32, volume: 0, alpha: 64, overall: 64 };
const hiddenFromCamera = { ...defaultObject().visibility, camera: false };

/** A white floor at z = 0 seen from above through a narrow view, a light 2 m above it, things between. */
function lit(
  light: Partial<LightSpec> & { kind: LightSpec['kind'] },
  between: { mesh: ReturnType<typeof square>; material?: object; object?: Partial<ObjectSpec> }[] = [],
  rest: Partial<ShotDocument> = {},
  floor: Partial<ObjectSpec> = {},
): TestScene {
  const test = scene(
    [{ mesh: square(5, 0), material: WHITE, object: floor }, ...between],
    { lights: { light: { ...defaultLight(light.kind), transform: translation(0, 0, 2), intensity: 8, ...light } as LightSpec }, ...rest },
    { width: 4, height: 4, limits: DIRECT },
  ); // prettier-ignore
  test.document.cameras.main.transform = lookAt([0, 0.001, 0.5], [0, 0, 0]);
  test.document.cameras.main.fieldOfView = 0.2;
  return test;
}
/** Exitant radiance × π: the irradiance on white. */
const irradiance = (test: TestScene, samples = 64) => {
  const { mean, error } = meanOf(render(test, undefined, samples), 'diffuse.direct');
  return { mean: mean * Math.PI, error: error * Math.PI };
};
const expectLit = (test: TestScene, expected: number, samples?: number) => {
  const { mean, error } = irradiance(test, samples);
  expect(Math.abs(mean - expected), `${mean} ± ${error} against ${expected}`).to.be.at.most(
    3 * error + 1e-4 * expected + 1e-9,
  );
};
const blocker = (object: Partial<ObjectSpec> = {}, material: object = WHITE) => ({
  mesh: square(1, 1),
  material,
  object: { visibility: hiddenFromCamera, ...object },
});
const point = (rest: object = {}) => ({ kind: 'point' as const, ...rest });

describe('shadows', () => {
  it('are thrown by what stands between, and by nothing that casts none', () => {
    expectLit(lit(point()), 2);
    expectLit(lit(point(), [blocker()]), 0);
    expectLit(lit(point(), [blocker({ visibility: { ...hiddenFromCamera, shadow: false } })]), 2);
    expectLit(lit(point({ castsShadows: false }), [blocker()]), 2);
    expectLit(lit(point(), [blocker()], {}, { receivesShadows: false }), 2);
  });

  it('keep as much of the light as the shadow colour says', () =>
    expectLit(lit(point({ shadowColour: [0.25, 0.25, 0.25] }), [blocker()]), 0.5));

  it('reach as far as the shadow distance, counted from the lit point', () => {
    expectLit(lit(point({ shadowDistance: 1.01 }), [blocker()]), 0);
    expectLit(lit(point({ shadowDistance: 0.99 }), [blocker()]), 2);
  });

  it('come from linked objects only, and light falls on linked objects only', () => {
    expectLit(lit(point({ shadowsOf: { mode: 'except', objects: ['part1'] } }), [blocker()]), 2);
    expectLit(lit(point({ shadowsOf: { mode: 'only', objects: ['part1'] } }), [blocker()]), 0);
    expectLit(lit(point({ lights: { mode: 'except', objects: ['part0'] } })), 0);
    expectLit(lit(point({ lights: { mode: 'only', objects: ['part0'] } })), 2);
  });

  it('of a sphere without casting give the same light by shadow rays alone as plain ones by both', () => {
    const open = irradiance(lit(point({ radius: 0.8 })), 1024);
    const alone = irradiance(lit(point({ radius: 0.8, castsShadows: false })), 1024);
    expect(Math.abs(open.mean - alone.mean)).to.be.at.most(3 * Math.hypot(open.error, alone.error));
    expect(open.mean).to.be.closeTo(2, 3 * open.error);
  });
});

describe('see-through shadows', () => {
  const glass = (object: Partial<ObjectSpec>, material: object = {}) =>
    blocker({ seeThroughShadows: true, ...object }, { ...CLEAR, ...material });
  const F = fresnelDielectric(1, 1.5);

  it('lose at each solid face what Fresnel says, times the base colour', () => {
    // One open face: entered and never left.
    expectLit(lit(point(), [glass({}, { baseColour: [0.5, 0.5, 0.5] })]), 2 * (1 - F) * 0.5);
  });

  it('of a thin wall lose both faces with all that passes between them: T = (1 − R)/(1 + R) (Stokes 1862)', () =>
    expectLit(lit(point(), [glass({ thin: true })]), (2 * (1 - F)) / (1 + F)));

  it('lose in thin walls what their thickness absorbs (Beer–Lambert)', () => {
    const material = { attenuationColour: [0.5, 0.5, 0.5], attenuationDistance: 0.01, thickness: 0.02 };
    expectLit(lit(point(), [glass({ thin: true }, material)]), ((2 * (1 - F)) / (1 + F)) * 0.25);
  });

  it('are black without the switch, or where transmissions may not be so many', () => {
    expectLit(lit(point(), [glass({ seeThroughShadows: false })]), 0);
    const limited = lit(point(), [glass({}), { ...glass({}), mesh: square(1, 0.5) }]);
    limited.document.sheets.preview.limits = { ...DIRECT, transmission: 1 };
    expectLit(limited, 0);
  });

  it('and the light that refracts its own way are not both counted: a pane before a large light', () => {
    const window = { kind: 'rectangle' as const, width: 3, height: 3, intensity: 1 };
    const pane = glass({ thin: true });
    pane.mesh = square(4, 1);
    const open = irradiance(lit(window), 1024);
    const { mean, error } = meanOf(render(lit(window, [pane]), undefined, 2048));
    // A pane larger than the light: between its transmittance at normal and at 60° incidence.
    const at = (degrees: number) => {
      const f = fresnelDielectric(Math.cos((degrees * Math.PI) / 180), 1.5);
      return (1 - f) / (1 + f);
    };
    expect((mean * Math.PI) / open.mean).to.be.within(at(60) - 5 * error, at(0) + 5 * error);
  });
});

describe('see-through surfaces', () => {
  const gauze = (alpha: number, mode: 'blend' | 'mask' = 'blend') => blocker({}, { ...WHITE, alpha, alphaMode: mode });

  it('hold back their alpha, or cut out by it', () => {
    expectLit(lit(point(), [gauze(0.3)]), 1.4);
    expectLit(lit(point(), [gauze(0.3), { ...gauze(0.5), mesh: square(1, 0.5) }]), 0.7);
    expectLit(lit(point(), [gauze(0.3, 'mask')]), 2);
    expectLit(lit(point(), [gauze(0.7, 'mask')]), 0);
  });

  it('are seen through by the camera, as often as the limit lets it, which the overall limit does not count', () => {
    const sheets = [0.3, 0.4, 0.5].map((z) => ({
      mesh: square(5, z),
      material: { ...WHITE, alpha: 0.5, alphaMode: 'blend' as const },
    }));
    const seen = (alpha: number) => {
      const test = scene(
        sheets,
        { environment: evenEnvironment([1, 1, 1]) },
        { width: 8, height: 8, limits: { ...DIRECT, diffuse: 0, overall: 0, alpha } },
      );
      const film = render(test, undefined, 256);
      const cut = channel(pictureOf([film], film.region, ['cut.alpha']), 'cut.alpha').reduce((a, b) => a + b) / 64;
      return { ...meanOf(film, 'background'), cut };
    };
    const open = seen(8);
    expect(Math.abs(open.mean - 0.125)).to.be.at.most(3 * open.error);
    expect(open.cut).to.equal(0);
    const shut = seen(2);
    expect(shut.mean).to.equal(0);
    // Three gauzes of a half, of which the third may not be passed: an eighth of the weight ends there.
    expect(shut.cut).to.be.closeTo(0.125, 0.02);
  });
});

describe('visibility', () => {
  it('by ray kind: a mirror shows what the camera does not, and the other way round', () => {
    const glowing = { baseColour: [0, 0, 0], specular: 0, emission: [1, 1, 1], sampledAsLight: false };
    const seen = (visibility: object) => {
      const test = scene([
        { mesh: square(5, 0), material: { baseColour: [1, 1, 1], metallic: 1, roughness: 0 } },
        { mesh: square(50, 0), material: glowing, object: { transform: multiply(translation(0, 0, 20), rotationY(180)), visibility: { ...defaultObject().visibility, ...visibility } } },
      ]); // prettier-ignore
      return meanOf(render(test, undefined, 16)).mean;
    };
    expect(seen({})).to.be.closeTo(1, 1e-5);
    expect(seen({ camera: false })).to.be.closeTo(1, 1e-5);
    expect(seen({ specular: false })).to.equal(0);
  });

  it('of a light: unseen by the camera it lights all the same', () => {
    const seen = (camera: boolean) => {
      const light = {
        ...defaultLight('rectangle'),
        width: 9,
        height: 9,
        intensity: 3,
        visibility: { camera, diffuse: true, specular: true, transmission: true },
      };
      const test = scene([], { lights: { light } });
      test.document.cameras.main.transform = lookAt([0, 0, -5], [0, 0, 0]);
      return meanOf(render(test, { x: 7, y: 7, width: 2, height: 2 }, 8)).mean;
    };
    expect(seen(true)).to.be.closeTo(3, 1e-5);
    expect(seen(false)).to.equal(0);
    expectLit(lit(point({ visibility: { camera: false, diffuse: true, specular: true, transmission: true } })), 2);
    expectLit(lit(point({ visibility: { camera: true, diffuse: false, specular: true, transmission: true } })), 0);
  });

  it('facing: triangles of the other side are not there', () => {
    const seen = (facing: ObjectSpec['facing']) =>
      meanOf(
        render(scene([{ mesh: square(5, 0), material: { emission: [1, 1, 1] }, object: { facing } }]), undefined, 4),
        'emission',
      ).mean;
    expect(seen('both')).to.be.closeTo(1, 1e-5);
    expect(seen('front')).to.be.closeTo(1, 1e-5);
    expect(seen('back')).to.equal(0);
  });

  it('cut-out holds out what is behind; shadow-only shows the shadow on what is behind', () => {
    const sky = {
      environment: evenEnvironment([0, 0, 0]),
      background: { ...defaultBackground(), kind: 'constant' as const, stops: [{ at: 0, colour: [0, 0, 0] }] },
    };
    const cut = scene([{ mesh: square(5, 0), object: { role: 'cut-out' } }], sky);
    expect(meanOf(render(cut, undefined, 8)).mean).to.equal(0);
    const open = lit(point(), [], sky, { role: 'shadow-only' });
    expect(meanOf(render(open, undefined, 16)).mean).to.be.closeTo(1, 1e-6);
    const shaded = lit(point({ shadowColour: [0.25, 0.25, 0.25] }), [blocker()], sky, { role: 'shadow-only' });
    expect(meanOf(render(shaded, undefined, 16)).mean).to.be.closeTo(0.25, 1e-6);
  });

  it('an endless floor reaches the horizon: below it there is floor, above it sky', () => {
    const test = scene(
      [],
      { environment: evenEnvironment([1, 1, 1]) },
      { width: 8, height: 64, filter: { kind: 'box', width: 1 } },
    );
    test.document.materials.floor = { ...compiledMaterial(), baseColour: [0, 0, 0], specular: 0 };
    test.document.objects.floor = { ...defaultObject(), shape: 'floor', material: 'floor' };
    test.document.cameras.main.transform = lookAt([0, 1, 0], [0, 1, -1]);
    const film = render(test, undefined, 4);
    const coverage = channel(pictureOf([film], film.region, ['coverage']), 'coverage');
    expect([...coverage.subarray(0, 8 * 32)].every((c) => c === 0)).to.equal(true);
    expect([...coverage.subarray(8 * 33)].every((c) => c === 1)).to.equal(true);
  });
});
const compiledMaterial = () => scene([{ mesh: square(1, 0) }]).document.materials.part0;

describe('emission reach', () => {
  const reach = (distance: number | null, bounces: number | null) => ({ distance, bounces });

  it('ends the light beyond its distance, and before it changes nothing', () => {
    expectLit(lit(point({ radius: 0.1, reach: reach(2.2, null) })), 2, 512);
    expectLit(lit(point({ radius: 0.1, reach: reach(1.5, null) })), 0, 512);
  });

  it('ends it after so many bounces: 0 lights nothing, 1 is direct light', () => {
    expectLit(lit(point({ reach: reach(null, 0) })), 0);
    expectLit(lit(point({ reach: reach(null, 1) })), 2);
  });

  it('never decides whether the emitter is seen: by the camera, through panes, and in a mirror, at any distance', () => {
    const glow = { baseColour: [0, 0, 0], specular: 0, emission: [1, 1, 1], reach: reach(0.01, 0) };
    const emitter = {
      mesh: square(50, 0),
      material: glow,
      object: { transform: multiply(translation(0, 0, 20), rotationY(180)), visibility: hiddenFromCamera },
    };
    const mirror = scene([
      { mesh: square(5, 0), material: { baseColour: [1, 1, 1], metallic: 1, roughness: 0 } },
      emitter,
    ]);
    expect(meanOf(render(mirror, undefined, 16)).mean).to.be.closeTo(1, 1e-5);
    const seen = scene([{ mesh: square(5, 0), material: glow }]);
    expect(meanOf(render(seen, undefined, 16)).mean).to.be.closeTo(1, 1e-5);
    const pane = { mesh: square(5, 1), material: { ...CLEAR }, object: { thin: true } };
    const through = scene([{ mesh: square(5, 0), material: glow }, pane]);
    const F = fresnelDielectric(1, 1.5);
    expect(meanOf(render(through, undefined, 64)).mean).to.be.closeTo((1 - F) / (1 + F), 0.02);
  });
});

describe('fog', () => {
  it('dims what is behind it by exp(−σd) (Beer–Lambert)', () => {
    const fog = { ...defaultFog(), density: 0.5, albedo: [0, 0, 0], box: { min: [-9, -9, 1], max: [9, 9, 3] } };
    const test = scene(
      [{ mesh: square(5, 0), material: { emission: [1, 1, 1], baseColour: [0, 0, 0], specular: 0 } }],
      { fog },
    );
    test.document.cameras.main.fieldOfView = 0.5;
    expect(meanOf(render(test, undefined, 16)).mean).to.be.closeTo(Math.exp(-1), 1e-4);
  });

  it('of albedo 1 in a furnace is not seen: L = 1, whatever its density and anisotropy', () => {
    for (const [density, anisotropy] of [[0.3, 0], [2, 0.8], [2, -0.5]]) {
      const fog = { ...defaultFog(), density, anisotropy, albedo: [1, 1, 1], box: { min: [-1, -1, -1], max: [1, 1, 1] } };
      const test = scene([], { fog, environment: evenEnvironment([1, 1, 1]) }, { width: 8, height: 8, roulette: false });
      test.document.cameras.main.fieldOfView = 15;
      const { mean, error } = meanOf(render(test, undefined, 128));
      expect(Math.abs(mean - 1), `${mean} ± ${error}`).to.be.at.most(3 * error + 1e-3);
    }
  }); // prettier-ignore

  it('scatters a distant light once as the integral says: L = ρ E p(cos) (1 − e^(−σd)) where it arrives undimmed', () => {
    const fog = {
      ...defaultFog(),
      density: 0.02,
      albedo: [0.8, 0.8, 0.8],
      anisotropy: 0,
      box: { min: [-20, -20, -1], max: [20, 20, 1] },
    };
    const test = scene(
      [],
      {
        fog,
        lights: {
          sun: { ...defaultLight('distant'), angle: 0, intensity: 3, transform: lookAt([0, 0, 5], [0, 0, 0]) },
        },
      },
      { width: 4, height: 4, limits: { ...DIRECT, volume: 1 } },
    );
    test.document.cameras.main.fieldOfView = 0.5;
    const { mean, error } = meanOf(render(test, undefined, 1024), 'volume.direct');
    // The sun comes from behind the camera: dimmed by e^(−σs) on its way to depth s, and again on the way back.
    const expected = (0.8 * 3 * (1 - Math.exp(-2 * 0.02 * 2))) / 2 / (4 * Math.PI);
    expect(Math.abs(mean - expected)).to.be.at.most(3 * error + 1e-6);
  });

  it('gives the same picture at any number of its own samples, with less noise', () => {
    const fogged = (volume: number) => {
      const test = lit(point({ radius: 0.1 }), [], {
        fog: { ...defaultFog(), density: 0.3, box: { min: [-2, -2, 0], max: [2, 2, 3] } },
      });
      test.document.sheets.preview.limits = { ...DIRECT, volume: 3, diffuse: 2 };
      test.document.sheets.preview.extraSamples.volume = volume;
      return meanOf(render(test, undefined, 512), 'volume.direct');
    };
    const [one, eight] = [fogged(1), fogged(8)];
    expect(Math.abs(one.mean - eight.mean)).to.be.at.most(3 * Math.hypot(one.error, eight.error));
    expect(eight.error).to.be.below(0.6 * one.error);
  });
});

describe('clamps', () => {
  it('hold each contribution to their number, and keep what they took', () => {
    const test = lit(point());
    test.document.sheets.preview.clamps = { direct: 0.25, indirect: null, bounced: null };
    const film = render(test);
    expect(meanOf(film, 'diffuse.direct').mean).to.be.closeTo(0.25, 1e-6);
    const taken = channel(pictureOf([film], film.region, ['clamped']), 'clamped');
    expect(taken[5]).to.be.closeTo(2 / Math.PI - 0.25, 1e-4);
  });

  it('leave the other kind alone', () => {
    const test = lit(point());
    test.document.sheets.preview.clamps = { direct: null, indirect: 1e-3, bounced: null };
    expectLit(test, 2);
  });
});

describe('bounced clamp and roughness floor', () => {
  /** A corner: light that came by way of the wall, and light that did not. */
  const corner = (sheet: Partial<Sheet>, roughness = 0) =>
    scene(
      [
        { mesh: box([-2, -2.1, -2], [2, -2, 2]), material: { baseColour: [0.5, 0.5, 0.5], specular: 0 } },
        { mesh: box([-2, -2, -2.1], [2, 2, -2]), material: { metallic: 1, roughness, baseColour: [1, 1, 1] } },
        { mesh: box([2, -2, -2], [2.1, 2, 2]), material: { baseColour: [0.5, 0.5, 0.5], specular: 0 } },
      ],
      { lights: { lamp: { ...defaultLight('point'), transform: translation(0, 0, 0), intensity: 3, radius: 0.05 } }, cameras: { main: { ...defaultCamera(), name: '', transform: lookAt([-1.2, -0.6, 1.6], [1.2, -1.8, -1.6]), fieldOfView: 60 } } }, // prettier-ignore
      { samples: 64, ...sheet },
    );
  const passes = (sheet: Partial<Sheet>, roughness = 0) => {
    const film = render(corner(sheet, roughness));
    return Object.fromEntries((['diffuse.direct', 'diffuse.indirect', 'specular.direct', 'specular.indirect'] as const).map((pass) => [pass, meanOf(film, pass).mean])); // prettier-ignore
  };
  const open = passes({});

  it('the clamp spares what is lit at once, seen in a mirror too, and takes what bounced', () => {
    const clamped = passes({ clamps: { direct: null, indirect: null, bounced: 1e-6 } });
    // A mirror shows lit things: a sharp event does not spread, and what bounced before is taken behind it as well.
    expect(clamped['specular.direct']).to.be.closeTo(open['specular.direct'], 1e-6);
    expect(clamped['specular.indirect']).to.be.within(0.3 * open['specular.indirect'], open['specular.indirect']);
    expect(clamped['diffuse.direct']).to.equal(open['diffuse.direct']);
    expect(clamped['diffuse.indirect']).to.be.below(1e-3 * open['diffuse.indirect']);
  });

  it('the floor leaves mirrors sharp that the camera sees, and blurs those seen after a bounce, as if they were rough', () => {
    const floored = passes({ roughnessFloor: 0.5 });
    expect(floored['specular.direct']).to.equal(open['specular.direct']);
    expect(floored['diffuse.direct']).to.equal(open['diffuse.direct']);
    expect(floored['diffuse.indirect']).to.be.closeTo(passes({}, 0.5)['diffuse.indirect'], 1e-9);
    expect(floored['diffuse.indirect']).to.not.be.closeTo(open['diffuse.indirect'], 1e-3);
  });
});

describe('ray distance', () => {
  it('misses what is further, says so, and lets the light pass', () => {
    const test = lit(point(), [blocker()]);
    test.document.sheets.preview.rayDistance = 0.9;
    expectLit(test, 2);
    test.document.sheets.preview.rayDistance = 0.4;
    const film = render(test, undefined, 8);
    expect(meanOf(film).mean).to.equal(0);
    expect(channel(pictureOf([film], film.region, ['cut.distance']), 'cut.distance')[0]).to.be.closeTo(1, 1e-6);
  });
});

describe('light groups', () => {
  it('add up to the beauty, where every light has one', () => {
    const test = lit(point({ group: 'key' }), [], {
      environment: { ...evenEnvironment([0.3, 0.2, 0.1]), group: 'sky' },
    });
    test.document.lights.fill = {
      ...defaultLight('disc'),
      transform: translation(0.5, 0, 1),
      intensity: 1,
      group: 'fill',
    };
    test.document.sheets.preview.passes.groups = true;
    test.document.sheets.preview.passes.shadows = true;
    const film = render(test);
    const { layout } = compiled(test);
    expect(layout.groups).to.deep.equal(['fill', 'key', 'sky']);
    const picture = pictureOf(
      [film],
      film.region,
      ['beauty', 'group.fill', 'group.key', 'group.sky', 'group.key.diffuse.direct', 'diffuse.direct', 'shadow.light'],
      layout,
    );
    for (let i = 0; i < 16; i++) {
      const sum = ['fill', 'key', 'sky'].reduce((s, g) => s + channel(picture, `group.${g}.R`)[i], 0);
      expect(sum / channel(picture, 'beauty.R')[i]).to.be.closeTo(1, 1e-5);
      expect(channel(picture, 'group.key.diffuse.direct.R')[i]).to.be.closeTo(channel(picture, 'group.key.R')[i], 1e-6);
      expect(channel(picture, 'shadow.light')[i]).to.be.closeTo(1, 1e-6);
    }
  });
});

describe('neutral material', () => {
  const room = (neutral: Sheet['neutral']) => {
    const test = scene(
      [
        { mesh: box([-1, -1, -1], [1, 1, 1]), material: { ...CLEAR, baseColour: [0.9, 0.1, 0.1] } },
        { mesh: sphere(0.2), material: { metallic: 1, emission: [0, 0, 0] } },
      ],
      { lights: { lamp: { ...defaultLight('point'), transform: translation(0, 0.8, 0.6), intensity: 1 } } },
      { width: 8, height: 8, neutral },
    );
    test.document.cameras.main.transform = lookAt([0, 0, 0.9], [0, 0, 0]);
    return test;
  };

  it('makes everything grey, matt and opaque', () => {
    const film = render(room('neutral'), undefined, 16);
    const albedo = channel(pictureOf([film], film.region, ['albedo']), 'albedo.R');
    expect([...albedo].every((a) => Math.abs(a - 0.5) < 1e-6)).to.equal(true);
    for (const pass of ['specular.direct', 'transmission.direct'] as const) expect(meanOf(film, pass).mean).to.equal(0);
    expect(meanOf(film, 'diffuse.direct').mean).to.be.above(0);
  });

  it('times occlusion is black in a closed room, where everything is behind something', () => {
    expect(meanOf(render(room('neutral-occlusion'), undefined, 16)).mean).to.equal(0);
    const near = room('neutral-occlusion');
    near.document.sheets.preview.occlusion.distance = 0.01;
    expect(meanOf(render(near, undefined, 16)).mean).to.be.above(0);
  });
});

describe('maps on surfaces', () => {
  it('a procedural is a colour: a gradient over the object’s X, seen as albedo', () => {
    const test = scene([{ mesh: square(1, 0), material: { baseColourMap: 'run', baseColour: [1, 1, 1] } }]);
    test.document.maps.run = {
      ...defaultMap('gradient'),
      axis: 'x',
      stops: [
        { at: -1, colour: [0, 0, 0] },
        { at: 1, colour: [1, 0.5, 0] },
      ],
    };
    const film = render(test, undefined, 16);
    const picture = pictureOf([film], film.region, ['albedo', 'position']);
    for (const i of [100, 120, 136])
      expect(channel(picture, 'albedo.R')[i]).to.be.closeTo((channel(picture, 'position.X')[i] + 1) / 2, 1e-3);
  });

  it('a bump of slope 1 leans the normal by 45° downhill', () => {
    const test = scene([{ mesh: square(1, 0), material: { bumpMap: 'ramp', bumpDepth: 2 } }]);
    // 0 to 1 over two metres, 2 m deep: rises one metre a metre.
    test.document.maps.ramp = {
      ...defaultMap('gradient'),
      axis: 'x',
      stops: [
        { at: -1, colour: [0, 0, 0] },
        { at: 1, colour: [1, 1, 1] },
      ],
    };
    const film = render(test, undefined, 4);
    const picture = pictureOf([film], film.region, ['normal']);
    expect(channel(picture, 'normal.X')[136]).to.be.closeTo(-Math.SQRT1_2, 1e-3);
    expect(channel(picture, 'normal.Z')[136]).to.be.closeTo(Math.SQRT1_2, 1e-3);
  });
});

describe('motion', () => {
  const moving = (samples: number): TestScene => {
    const test = scene(
      [
        {
          mesh: square(0.2, 0),
          material: { emission: [1, 1, 1], baseColour: [0, 0, 0], specular: 0, sampledAsLight: false },
        },
      ],
      {},
      { width: 64, height: 32, filter: { kind: 'box', width: 1 }, motion: { samples, shutter: 1 } },
    );
    test.document.cameras.main.fieldOfView = 20;
    Object.assign(test.document.objects.part0, {
      motion: 'transform',
      keys: [
        { frame: 1, transform: translation(-1, 0, 0), mesh: null },
        { frame: 2, transform: translation(1, 0, 0), mesh: null },
      ],
    });
    return test;
  };

  it('blurs a square of side a that moves by d into a trapezoid of height a/d (box shutter)', () => {
    const film = render(moving(2), undefined, 1024);
    const middle = 16 * 64 + 32;
    expect(film.means[middle * film.width + 1]).to.be.closeTo(0.2, 0.03);
    const whole = meanOf(film).mean;
    const still = meanOf(render(moving(1), undefined, 256)).mean;
    expect(whole / still).to.be.closeTo(1, 0.03);
  });

  it('does not blur with one sample, and tells by how much the object moves: d over a frame', () => {
    const film = render(moving(1), undefined, 16);
    const picture = pictureOf([film], film.region, ['motion', 'coverage']);
    const at = channel(picture, 'coverage').findIndex((c) => c === 1);
    expect([...channel(picture, 'coverage')].filter((c) => c === 1).length).to.be.greaterThan(20);
    // The frame is 32 pixels high for 2·5·tan 10° metres.
    expect(channel(picture, 'motion.X')[at]).to.be.closeTo((2 * 32) / (10 * Math.tan(Math.PI / 18)), 1e-3);
  });
});

describe('world positions of single precision', () => {
  it('shake 40 km away and say so; double ones do not (IEEE 754: spacing 3.9 mm)', () => {
    const far = 40_000;
    const shot = (precision: 'single' | 'double') => {
      const test = scene(
        [{ mesh: sphere(0.02), object: { transform: translation(far, 0, 0.001) } }],
        {},
        { width: 32, height: 32, precision, filter: { kind: 'box', width: 1 } },
      );
      test.document.cameras.main.transform = lookAt([far, 0, 1], [far, 0, 0]);
      test.document.cameras.main.fieldOfView = 3;
      return test;
    };
    const outline = (test: TestScene) => {
      const film = render(test, undefined, 16);
      return channel(pictureOf([film], film.region, ['coverage']), 'coverage');
    };
    const [near, double, single] = [
      scene(
        [{ mesh: sphere(0.02), object: { transform: translation(0, 0, 0.001) } }],
        {},
        { width: 32, height: 32, filter: { kind: 'box', width: 1 } },
      ),
      shot('double'),
      shot('single'),
    ];
    near.document.cameras.main.transform = lookAt([0, 0, 1], [0, 0, 0]);
    near.document.cameras.main.fieldOfView = 3;
    const [a, b, c] = [near, double, single].map(outline);
    const off = (p: Float32Array, q: Float32Array) => p.reduce((sum, v, i) => sum + Math.abs(v - q[i]), 0);
    expect(off(a, b)).to.be.below(1);
    expect(off(a, c)).to.be.above(10);
    expect(compiled(single).warnings.join()).to.match(/40\.0 km from the origin.*3\.9 mm apart/);
    expect(compiled(double).warnings).to.deep.equal([]);
  });
});
