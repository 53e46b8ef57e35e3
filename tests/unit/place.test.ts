/**
 * A place is asked what lights it: against closed forms of irradiance, penumbra and contrast, against the renderer, and
 * against every setting that keeps a shadow away.
 */
import { expect } from 'chai';
import { lookAt, translation } from '../../core/data/transform.ts';
import { channel } from '../../core/data/picture.ts';
import { plainDisplay } from '../../core/data/grain.ts';
import { tellTint } from '../../core/diagnose/shadows/tell-tint.ts';
import { tellPlace } from '../../core/diagnose/shadows/tell-place.ts';
import { defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import type { LightSpec, ShotDocument } from '../../core/document/schema.ts';
import { withValues } from '../../core/document/set-values.ts';
import { askPlace, type PlaceAnswer } from '../../core/place/ask.ts';
import { LightWalk } from '../../core/place/light-walk.ts';
import { edgeNoise, raysForEdge } from '../../core/place/edge-rays.ts';
import { shadowTint } from '../../core/place/shadow-tint.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { angleFor, penumbraWidth, widened } from '../../core/place/penumbra.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { box } from '../../demo/shapes.ts';
import { compiled, meanOf, render, scene, sphere, square, type TestScene } from './helpers.ts';

type Parts = Parameters<typeof scene>[0];
const light = <K extends LightSpec['kind']>(kind: K, rest: Partial<LightSpec>): LightSpec =>
  ({ ...defaultLight(kind), ...rest }) as LightSpec;

const white = { baseColour: [1, 1, 1], specular: 0, roughness: 1 };
/** A floor that faces +Z and fills the frame, seen from above. */
const floor = (rest: Parts[number]['object'] = {}): Parts[number] => ({ mesh: square(20, 0), material: white, object: rest }); // prettier-ignore
/** A disc's worth of a square at a height over the middle, which the camera does not look through: it looks from the side. */
const aside = { cameras: { main: { name: '', transform: lookAt([6, 0, 5], [0, 0, 0]), fieldOfView: 20, sensorHeight: 24, pixelAspect: 1, near: 0, far: null, fStop: null, focusDistance: 5 } } }; // prettier-ignore

function asked(
  test: TestScene,
  pixel: [number, number] = [8, 8],
  rays = 256,
): { walk: LightWalk; answer: PlaceAnswer } {
  const settings = settingsOf(test.document.sheets.preview);
  const walk = new LightWalk(compiled(test), test.document, settings);
  return { walk, answer: askPlace(walk, walk.surfaceAt(...pixel)!, { settings, pixel, rays }) };
}
const told = (test: TestScene, pixel: [number, number] = [8, 8]) => {
  const { walk, answer } = asked(test, pixel);
  return tellPlace(walk, test.document.sheets.preview, pixel, answer);
};

describe('a place asked about its light', () => {
  it('gets from a rectangle above it what the configuration factor says', () => {
    const [a, b, h, radiance] = [1.2, 0.8, 1.5, 3];
    const lights = { lamp: light('rectangle', { transform: lookAt([0, 0, h], [0, 0, 0]), width: a, height: b, intensity: radiance }) }; // prettier-ignore
    const { answer } = asked(scene([floor()], { lights, ...aside }), [8, 8]);
    const [x, y] = [a / 2 / h, b / 2 / h];
    // Howell, "A Catalog of Radiation Heat Transfer Configuration Factors", B-3: a quarter of a parallel rectangle; from memory.
    const quarter = (x / Math.hypot(1, x) * Math.atan(y / Math.hypot(1, x)) + y / Math.hypot(1, y) * Math.atan(x / Math.hypot(1, y))) / (2 * Math.PI); // prettier-ignore
    const [lamp] = answer.lights;
    // The middle of pixel 8 of 16 lies a little beside the middle of the frame.
    expect(lamp.unshadowed / (Math.PI * radiance * 4 * quarter)).to.be.closeTo(1, 0.02);
    expect(lamp.arriving).to.equal(lamp.unshadowed);
    expect(lamp.contrast).to.be.above(10);
  });

  it('agrees with the light that the renderer finds there', () => {
    const lights = {
      lamp: light('disc', { transform: lookAt([0.5, 1, 2], [0, 0, 0]), radius: 0.4, intensity: 5 }),
      sun: light('distant', { transform: lookAt([2, 1, 3], [0, 0, 0]), angle: 0.53, intensity: 2 }),
    };
    const post = { mesh: box([-0.05, 0.3, 0], [0.35, 0.5, 0.9]), material: white };
    const test = scene([floor(), post], { lights, environment: evenEnvironment([0.3, 0.3, 0.3]) }, { samples: 4096, filter: { kind: 'box', width: 0.1 } }); // prettier-ignore
    const { answer } = asked(test, [8, 8], 1024);
    const { mean } = meanOf(render(test, { x: 8, y: 8, width: 1, height: 1 }), 'diffuse.direct');
    // Of a white matt surface what leaves is what arrives over π.
    expect(answer.direct / Math.PI / mean).to.be.closeTo(1, 0.02);
  });

  it('tells contrast and sky of a square over a plane in closed form', () => {
    const [half, h, sky, sun] = [0.8, 1, 0.4, 3];
    const lights = { sun: light('distant', { transform: lookAt([0, 0, 5], [0, 0, 0]), angle: 0.53, intensity: sun }) };
    const slab = { mesh: square(half, h), material: white };
    const { answer } = asked(scene([floor(), slab], { lights, environment: evenEnvironment([sky, sky, sky]), ...aside }), [8, 8], 1024); // prettier-ignore
    const k = half / h;
    const factor = (4 / Math.PI) * (k / Math.hypot(1, k)) * Math.atan(k / Math.hypot(1, k));
    const [own, environment] = answer.lights;
    expect(own.arriving).to.equal(0);
    expect(environment.arriving / (Math.PI * sky * (1 - factor))).to.be.closeTo(1, 0.02);
    const rest = Math.PI * sky * (1 - factor) + (answer.indirect ?? 0);
    expect(own.contrast).to.be.closeTo(Math.log2((rest + sun) / rest), 0.05);
  });

  it('finds the penumbra of the sun as wide as the sun is, times the distance', () => {
    const [h, angle] = [2, 0.53];
    const lights = { sun: light('distant', { transform: lookAt([0, 0, 5], [0, 0, 0]), angle, intensity: 1 }) };
    // One long edge at y = 0, h above the floor; the frame's height runs along y.
    const slab = { mesh: box([-30, -30, h], [1, 0, h + 0.01]), material: white };
    const test = scene([floor(), slab], { lights, ...aside }, { width: 16, height: 12_000 });
    const settings = settingsOf(test.document.sheets.preview);
    const walk = new LightWalk(compiled(test), test.document, settings);
    const share = (y: number) => {
      const place = walk.surfaceAt(8, y)!;
      const [sun] = askPlace(walk, place, { lights: [0], rays: 1024 }).lights;
      return { x: place.point[1], share: sun.arriving / sun.unshadowed, penumbra: sun.penumbra };
    };
    const across = Array.from({ length: 12_000 }, (_, y) => y).filter((y) => Math.abs(walk.surfaceAt(8, y)?.point[1] ?? 9) < 0.015).map(share); // prettier-ignore
    const edge = across.filter(({ share }) => share > 0.001 && share < 0.999).map(({ x }) => x);
    const expected = 2 * h * Math.tan((angle * Math.PI) / 360);
    expect(Math.max(...edge) - Math.min(...edge)).to.be.closeTo(expected, 0.05 * expected);
    const [inside] = across.filter(({ share }) => share > 0.3 && share < 0.7);
    expect(inside.penumbra!.metres).to.be.closeTo(expected, 0.01 * expected);
  });

  it('sets the size of a light for an edge that is wished, and leaves it as bright', () => {
    const lamps: LightSpec[] = [
      light('distant', { transform: lookAt([1, 0, 4], [0, 0, 0]), angle: 0.53, intensity: 2 }),
      light('disc', { transform: lookAt([0.5, 0.5, 4], [0, 0, 0]), radius: 0.05, intensity: 400 }),
      light('rectangle', { transform: lookAt([0, 1, 4], [0, 0, 0]), width: 0.1, height: 0.1, intensity: 300 }),
      light('point', { transform: translation(0.2, 0.3, 4), radius: 0.04, intensity: 30 }),
    ];
    for (const lamp of lamps) {
      const of = (spec: LightSpec) => asked(scene([floor(), { mesh: square(0.5, 1), material: white }], { lights: { lamp: spec }, ...aside }), [8, 8], 1024).answer; // prettier-ignore
      const { place, lights } = of(lamp);
      const [{ blockers, metres, direction, angle, unshadowed: before }] = lights;
      const cosine = direction!.reduce((sum, d, a) => sum + d * place.normal[a], 0);
      const wished = angleFor(0.2, { blocker: blockers[0].metres, light: metres, cosine });
      const values = widened('', lamp, angle!, wished, metres)!;
      const after = { ...lamp, ...Object.fromEntries(Object.entries(values).map(([key, value]) => [key.slice(1), value])) } as LightSpec; // prettier-ignore
      const [turned] = of(after).lights;
      expect(turned.penumbra!.metres, lamp.kind).to.be.closeTo(0.2, 0.008);
      expect(turned.unshadowed / before, lamp.kind).to.be.closeTo(1, 0.04);
    }
    expect(widened('/lights/l', light('mesh', {}), 1, 2, 1)).to.equal(null);
    // The sun's disc over two metres: 18.5 mm.
    expect(penumbraWidth({ angle: 0.53, blocker: 2, light: null, cosine: 1 })).to.be.closeTo(0.0185, 1e-5);
  });

  it('tells shadow rays that keep an edge clean: rendered with as many, its noise is below the target', () => {
    // The edge of a slab along X, 1 m above a floor, under a sun of 5°.
    const sun = light('distant', { transform: lookAt([0, 0, 5], [0, 0, 0]), angle: 5, intensity: 1 });
    const unseen = { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true };
    const slab = { mesh: box([-30, -30, 1], [30, 0, 1.01]), material: white, object: { visibility: unseen } };
    const target = 4;
    const test = scene([floor(), slab], { lights: { sun }, ...aside }, { width: 128, height: 512, grainTarget: target, filter: { kind: 'box', width: 0.1 } }); // prettier-ignore
    const settings = settingsOf(test.document.sheets.preview);
    const walk = new LightWalk(compiled(test), test.document, settings);
    const at = (x: number, y: number) => askPlace(walk, walk.surfaceAt(x, y)!, { settings, noiseTarget: target, pixel: [x, y], lights: [0], rays: 1024 }).lights[0]; // prettier-ignore
    // Rows of the frame run along the edge: the one in its middle.
    const share = (y: number) => at(64, y).arriving / at(64, y).unshadowed;
    const y = Array.from({ length: 512 }, (_, k) => k).find((k) => Math.abs(share(k) - 0.5) < 0.06)!;
    const { needed, now } = at(64, y).edgeRays!;
    expect(now).to.equal(test.document.sheets.preview.samples);
    expect(needed).to.be.within(50, 5000);
    const film = render(test, { x: 0, y, width: 128, height: 1 }, 4 * Math.ceil(needed / 4));
    const shown = Array.from(channel(pictureOf([film], film.region, ['beauty'], compiled(test).layout), 'beauty.G')); // prettier-ignore
    // Along the row the share of the sun is one; what differs is noise.
    const display = shown.map((y) => plainDisplay(y));
    const mean = display.reduce((sum, v) => sum + v, 0) / display.length;
    const noise = Math.sqrt(display.reduce((sum, v) => sum + (v - mean) ** 2, 0) / display.length);
    expect(noise).to.be.within(0.35 * target, target);
  });

  it('calls a sun of 5° with 10 shadow rays just clean', () => {
    // Common practice, no source: 5° with 10 shadow rays is softened and just clean in a small scene. At 16 samples a pixel, a
    // shadow of a stop and a half and white paper at half of white: between hard to see (2 of 255) and plain (5).
    const albedo = 0.5;
    const light = (0.5 * Math.PI) / albedo / (1 + 1 / (2 ** 1.5 - 1));
    const of = { light, rest: light / (2 ** 1.5 - 1), albedo };
    expect(edgeNoise(of, 16 * 10)).to.be.within(2, 5);
    expect(raysForEdge({ ...of, target: 2 })).to.be.within(160, 640);
    // Noise falls with the root of the rays.
    expect(edgeNoise(of, 400) / edgeNoise(of, 1600)).to.be.closeTo(2, 0.02);
  });

  it('judges the colour of a shadow in stops and hue', () => {
    const glass = { transmission: 1, baseColour: [1, 0.5, 0.125], roughness: 0, ior: 1 };
    const pane = {
      mesh: square(0.5, 1),
      material: glass,
      object: { name: 'pane', thin: true, seeThroughShadows: true },
    };
    const lamp = light('point', { transform: translation(0, 0, 3), intensity: 40 });
    const [{ tint }] = told(scene([floor(), pane], { lights: { lamp }, ...aside })).lights;
    // One face of a thin pane, without a change of index: its filter, 0, −1 and −3 stops.
    tint!.channels.forEach((stops, c) => expect(stops).to.be.closeTo([0, -1, -3][c], 0.01));
    expect(tint!.stops).to.be.closeTo(Math.log2(0.2126 + 0.7152 * 0.5 + 0.0722 * 0.125), 0.01);
    // HSL's hue of (1, 1/2, 1/8): 60° × (1/2 − 1/8) / (1 − 1/8).
    expect(tint).to.include({ name: 'orange' });
    expect(tint!.hue).to.be.closeTo((60 * 0.375) / 0.875, 0.1);
    expect(tellTint(tint!)).to.equal('tinted orange, hue 26°: red 0, green −1.0, blue −3.0 stops');
    expect(shadowTint([0.3, 0.3, 0.3])).to.equal(null);
    expect(shadowTint([0, 0, 0])).to.equal(null);
  });

  /** A lamp above a slab above a floor: the place lies in its shadow, unless a setting says otherwise. */
  const shaded = (): TestScene =>
    scene(
      [floor({ name: 'floor' }), { mesh: square(0.5, 1), material: white, object: { name: 'slab' } }],
      { lights: { lamp: light('point', { name: 'lamp', transform: translation(0, 0, 3), intensity: 40 }) }, environment: evenEnvironment([0.05, 0.05, 0.05]), ...aside }, // prettier-ignore
      { limits: { diffuse: 1, specular: 1, transmission: 1, volume: 1, alpha: 16, overall: 4 } },
    );
  const ids = (document: ShotDocument) => Object.keys(document.objects);
  const withSet = (values: (document: ShotDocument) => Record<string, unknown>): TestScene => {
    const test = shaded();
    return { ...test, document: withValues(test.document, ['preview', 'final'], values(test.document)) };
  };

  it('says that it lies in a shadow, and by what', () => {
    const { lights, sentence } = told(shaded());
    expect(lights[0]).to.include({ id: 'lamp', state: 'shaded', cause: null });
    expect(lights[0].verdict).to.match(/In the shadow of slab/);
    expect(sentence).to.match(/shadowed from lamp/);
  });

  const SETTINGS: [string, (document: ShotDocument) => Record<string, unknown>, RegExp][] = [
    ['shadows.light-casts-none', () => ({ '/lights/lamp/castsShadows': false }), /lamp casts no shadows/],
    ['shadows.object-casts-none', (d) => ({ [`/objects/${ids(d)[1]}/visibility/shadow`]: false }), /slab casts no shadows/],
    ['shadows.receiver-takes-none', (d) => ({ [`/objects/${ids(d)[0]}/receivesShadows`]: false }), /floor takes no shadows/],
    ['shadows.not-linked', (d) => ({ '/lights/lamp/shadowsOf': { mode: 'except', objects: [ids(d)[1]] } }), /leaves slab out/],
    ['shadows.distance-too-short', () => ({ '/lights/lamp/shadowDistance': 0.9 }), /end 900 mm .* stands 1 m away/],
    ['limits.ray-distance', () => ({ '/rayDistance': 0.9 }), /end after 900 mm/],
    ['shadows.colour-too-light', () => ({ '/lights/lamp/shadowColour': [0.7, 0.7, 0.7] }), /leaves 70 % of its light/],
  ]; // prettier-ignore
  for (const [cause, values, words] of SETTINGS)
    it(`finds ${cause}, and a remedy that brings the shadow back`, () => {
      const test = withSet(values);
      // The ray distance of the sheet would hide the floor from the camera as well.
      if (cause === 'limits.ray-distance') test.document.sheets.preview.rayDistance = 0.9;
      const settings = settingsOf(test.document.sheets.preview);
      const walk = new LightWalk(compiled(test), test.document, settings);
      const place = new LightWalk(compiled(shaded()), shaded().document, settingsOf(shaded().document.sheets.preview)).surfaceAt(8, 8)!; // prettier-ignore
      const answer = tellPlace(walk, test.document.sheets.preview, [8, 8], askPlace(walk, place));
      const [lamp] = answer.lights;
      expect(lamp).to.include({ id: 'lamp', state: 'missing', cause });
      expect(lamp.verdict).to.match(words);
      expect(lamp.remedies, 'remedies').to.have.length(1);
      const cured = { ...test, document: withValues(test.document, ['preview'], lamp.remedies[0].values) };
      expect(cured.document.objects).to.deep.equal(shaded().document.objects);
      expect(cured.document.lights).to.deep.equal(shaded().document.lights);
      const after = new LightWalk(compiled(cured), cured.document, settingsOf(cured.document.sheets.preview));
      const [mended] = askPlace(after, place).lights;
      expect(mended.missing).to.equal(null);
      // What was foretold of the place is what is there.
      const now = askPlace(walk, place).direct;
      expect(lamp.remedies[0].stops).to.be.closeTo(Math.log2(askPlace(after, place).direct / now), 1e-9);
    });

  it('names two settings where each hides the other, for either alone changes nothing', () => {
    const test = withSet((d) => ({ '/lights/lamp/castsShadows': false, [`/objects/${ids(d)[1]}/visibility/shadow`]: false })); // prettier-ignore
    const { lights } = told(test);
    expect(lights[0].remedies).to.have.length(1);
    expect(Object.keys(lights[0].remedies[0].values)).to.have.length(2);
    expect(lights[0].verdict).to.match(/lamp casts no shadows, and slab casts no shadows/);
  });

  it('says why a light does not light it', () => {
    const only = (rest: Partial<LightSpec>) => scene([floor({ name: 'floor' })], { lights: { lamp: light('spot', { transform: lookAt([0, 0, 3], [0, 0, 0]), intensity: 10, ...rest }) } }); // prettier-ignore
    const verdict = (rest: Partial<LightSpec>) => {
      const { state, cause, verdict } = told(only(rest)).lights[0];
      return [state, cause, verdict];
    };
    expect(verdict({ transform: lookAt([0, 0, 3], [0, 0, 9]) })).to.deep.equal(['unlit', 'lighting.light-turned-away', 'Lamp points the other way.']); // prettier-ignore
    expect(verdict({ lights: { mode: 'only', objects: [] } })[1]).to.equal('lighting.linked-away');
    expect(verdict({ reach: { distance: 2, bounces: null } })).to.deep.equal(['unlit', 'lighting.light-out-of-reach', 'Lamp reaches 2 m; this point is 3 m from it.']); // prettier-ignore
    expect(verdict({ transform: lookAt([0, 0, -3], [0, 0, 0]) })).to.deep.equal(['unlit', null, 'The surface faces away from it.']); // prettier-ignore
  });

  it('says that a light stands inside an object', () => {
    const shell = { mesh: sphere(0.3), material: white, object: { name: 'globe', transform: translation(0, 0, 3) } };
    const { lights } = told(scene([floor(), shell], { lights: { lamp: light('point', { transform: translation(0, 0, 3), intensity: 9 }) }, ...aside })); // prettier-ignore
    expect(lights[0]).to.include({ state: 'shaded', cause: 'lighting.light-inside-object' });
    expect(lights[0].verdict).to.match(/is inside globe/);
  });

  it('says that glass stops shadow rays, and what lets them through', () => {
    const pane = { mesh: box([-2, -2, 1], [2, 2, 1.05]), material: { ...white, transmission: 1, roughness: 0 }, object: { name: 'pane' } }; // prettier-ignore
    const test = scene([floor(), pane], { lights: { lamp: light('point', { transform: translation(0, 0, 3), intensity: 9 }) } }); // prettier-ignore
    const [lamp] = told(test).lights;
    expect(lamp).to.include({ state: 'shaded', cause: 'glass.blocks-shadow-rays' });
    const through = { ...test, document: withValues(test.document, ['preview'], lamp.remedies[0].values) };
    const { answer } = asked(through);
    // Straight through two faces of index 1.5, each of which lets 96 % through (Fresnel).
    expect(answer.lights[0].arriving / answer.lights[0].unshadowed).to.be.closeTo(0.96 ** 2, 0.002);
  });

  it('looks through glass at what stands behind it', () => {
    const pane = { mesh: box([-2, -2, 1], [2, 2, 1.05]), material: { ...white, transmission: 1, roughness: 0 }, object: { name: 'pane' } }; // prettier-ignore
    const { object, through } = told(scene([floor({ name: 'floor' }), pane], { environment: evenEnvironment([1, 1, 1]) })); // prettier-ignore
    expect(object.name).to.equal('floor');
    expect(through).to.deep.equal(['pane']);
  });

  it('goes through the lights that bring most of hundreds, and says what it left out', () => {
    const lights = Object.fromEntries(
      Array.from({ length: 300 }, (_, k) => [`l${k}`, light('point', { transform: translation((k % 20) - 10, Math.floor(k / 20) - 7, 2), intensity: k === 150 ? 50 : 0.01 })]),
    ); // prettier-ignore
    const { answer, walk } = asked(scene([floor()], { lights }), [8, 8], 16);
    expect(answer.lights).to.have.length(24);
    expect(answer.leftOut.lights).to.equal(277);
    expect(answer.leftOut.share).to.be.below(0.1);
    expect(answer.lights.map((one) => walk.scene.lightIds[one.light])).to.include('l150');
  });

  it('answers null beside all surfaces', () => {
    const test = scene([{ mesh: square(0.1, 0), material: white }], {});
    const walk = new LightWalk(compiled(test), test.document, settingsOf(test.document.sheets.preview));
    expect(walk.surfaceAt(0, 0)).to.equal(null);
  });
});
