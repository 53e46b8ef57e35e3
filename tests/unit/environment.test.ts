/** Environments that light: display pictures, curves left on, seams followed to the image, sides that look alike. */
import { expect } from 'chai';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { HALF_TO_FLOAT, halfOf } from '../../core/data/half.ts';
import type { Texture } from '../../core/data/texture.ts';
import { lookAt } from '../../core/data/transform.ts';
import { flatCases } from '../../core/diagnose/lighting/flat.ts';
import { imageLightCases } from '../../core/diagnose/lighting/image-light.ts';
import { lighting } from '../../core/diagnose/lighting/definition.ts';
import { planesInput } from '../../core/diagnose/picture-input.ts';
import { diagnosePicture, lookInRender } from '../../core/diagnose/run.ts';
import { defaultLight, evenEnvironment } from '../../core/document/defaults.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { changeOf } from '../../core/figures/effect.ts';
import { applyPatch } from '../../core/document/patch.ts';
import { withValues } from '../../core/document/set-values.ts';
import { readPngTexture, writePng } from '../../core/formats/png.ts';
import { compileSky, directionOf, skyRadiance } from '../../core/lights/sky.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { measureEnvironment, sweepRotation } from '../../core/place/environment.ts';
import { arrivingWith, LightWalk } from '../../core/place/light-walk.ts';
import { SkyWalk } from '../../core/place/sky-walk.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { mipChain } from '../../core/textures/image.ts';
import { poleFaults, withEvenPoles } from '../../core/textures/poles.ts';
import { displayGrid } from '../../core/textures/display-grid.ts';
import { readAs } from '../../core/textures/read-as.ts';
import { box } from '../../demo/shapes.ts';
import { inputOf, renderShot, type BenchShot } from './bench-shot.ts';
import { compiled, scene, sphere, square } from './helpers.ts';
import { randomNumbers } from './size.ts';

const [WIDTH, HEIGHT] = [64, 32];
const image = (level: (x: number, y: number) => number): Texture => ({
  width: WIDTH,
  height: HEIGHT,
  texels: Float32Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => level(Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH))), // prettier-ignore
  alpha: null,
  colourSpace: 'srgb',
});
const grey = { baseColour: [0.5, 0.5, 0.5], roughness: 1, specular: 0 };

/** A floor and a ball under an image, looked at level towards −Z. */
function under(texture: Texture, rest: Partial<ShotDocument['environment']> = {}, file = 'sky.jpg'): BenchShot {
  const shot = scene(
    [{ mesh: box([-3, -1.1, -6], [3, -1, 4]), material: grey }],
    { environment: { ...evenEnvironment([1, 1, 1]), kind: 'image', texture: 'sky', ...rest } },
    { width: 48, height: 48, samples: 4 },
  );
  shot.document.textures.sky = { file, colourSpace: texture.colourSpace ?? 'linear' };
  shot.assets.textures.set('sky', texture);
  return shot;
}
const look = (shot: BenchShot) => lookInRender(inputOf(shot, renderShot(shot)), lighting);
const cured = (shot: BenchShot, [{ finding }]: ReturnType<typeof look>): BenchShot => ({
  ...shot,
  document: withValues(shot.document, ['preview'], (finding.remedies[0].change as { values: Record<string, unknown> }).values), // prettier-ignore
});

describe('environments', function () {
  this.timeout(60_000);

  it('tells the direction of a place of the image: the radiance there is that of the texel', () => {
    const texture = image((x, y) => x + WIDTH * y);
    for (const rotation of [0, 37, -120]) {
      const sky = compileSky({ ...evenEnvironment([1, 1, 1]), kind: 'image', texture: 'sky', rotation }, 0, [texture], false); // prettier-ignore
      for (const [x, y] of [
        [0, 3],
        [20, 16],
        [63, 29],
      ]) {
        const out = new Float64Array(3);
        skyRadiance(sky, [mipChain(texture)], ...directionOf(sky, (x + 0.5) / WIDTH, 1 - (y + 0.5) / HEIGHT), out);
        expect(out[0]).to.be.closeTo(x + WIDTH * y, 1e-3);
      }
    }
  });

  it('reads an image in the other colour space as its file would be', () => {
    const bytes = writePng(
      4,
      2,
      Uint8Array.from({ length: 24 }, (_, i) => i * 11),
    );
    const [linear, srgb] = (['linear', 'srgb'] as const).map((space) => readPngTexture(bytes, space, 'a.png'));
    for (const [from, to] of [
      [linear, srgb],
      [srgb, linear],
    ])
      // prettier-ignore
      readAs(from, to.colourSpace!).texels.forEach((v, i) => expect(v).to.be.closeTo(to.texels[i], 1e-6));
    expect(readAs(linear, 'linear')).to.equal(linear);
    const floats: Texture = { ...linear, colourSpace: undefined };
    expect(readAs(floats, 'srgb')).to.equal(floats);
  });

  it('finds a display picture that lights, where it is white and how wide, and puts a sun there', () => {
    const isWhite = (x: number, y: number) => x >= 30 && x < 34 && y >= 8 && y < 10;
    const shot = under(image((x, y) => (isWhite(x, y) ? 1 : 0.3)));
    const [of] = imageLightCases(inputOf(shot, renderShot(shot)));
    // Solid angle of a patch of a lat-long grid: Δλ (cos θ₁ − cos θ₂).
    const solid = ((4 * 2 * Math.PI) / WIDTH) * (Math.cos((8 * Math.PI) / HEIGHT) - Math.cos((10 * Math.PI) / HEIGHT));
    expect(of.white * 4 * Math.PI).to.be.closeTo(solid, 1e-9);
    expect(of.brightest!.elevation).to.be.closeTo(90 - (9 * 180) / HEIGHT, 0.5);
    // A circular cone of the same solid angle: 2π (1 − cos α).
    expect(2 * Math.PI * (1 - Math.cos((of.brightest!.degrees * Math.PI) / 360))).to.be.closeTo(solid, 1e-9);
    const found = look(shot);
    expect(found[0].finding.cause).to.equal('lighting.display-picture-as-light');
    const after = cured(shot, found).document.lights.sun;
    // Elevation 39 to 45 degrees, towards +Z: the middle of the image.
    expect(after.kind).to.equal('distant');
    expect(after.transform[10]).to.be.above(0.6);
    for (const [texture, file] of [[image(() => 0.3), 'sky.jpg'], [image((x, y) => (isWhite(x, y) ? 40 : 0.3)), 'sky.png'], [image((x, y) => (isWhite(x, y) ? 1 : 0.3)), 'sky.hdr']] as const) // prettier-ignore
      expect(imageLightCases(inputOf(under(texture, {}, file), renderShot(under(texture, {}, file))))).to.deep.equal([]); // prettier-ignore
  });

  it('finds a display curve that is left on, and undoes it', () => {
    const shot = under({ ...image((_, y) => 0.6 - 0.01 * y), colourSpace: 'linear' });
    const found = look(shot);
    expect(found.map(({ finding }) => finding.cause)).to.include('lighting.display-curve-missing');
    const after = look(cured(shot, found));
    expect(after.map(({ finding }) => finding.cause)).not.to.include('lighting.display-curve-missing');
  });

  it('follows a seam from the pixel to the image: straight, in a mirror, and not where nothing shows it', () => {
    const uneven = image((x) => 0.2 + (0.5 * x) / WIDTH);
    const straight = under(uneven);
    const found = look(straight).filter(({ finding }) => finding.cause === 'lighting.environment-seam');
    expect(found, 'the camera looks to where longitude is 180°').to.have.length(1);
    expect(found[0].finding.sentence).to.equal('The seam of the environment is seen: a hard upright line.');
    // Stops between both ends of the run: log2 of their ratio.
    expect(found[0].finding.headline).to.contain(`${Math.log2((0.2 + (0.5 * 63) / 64) / 0.2).toFixed(1)} stops`);
    expect(look(cured(straight, found)).map(({ finding }) => finding.cause)).not.to.include('lighting.environment-seam'); // prettier-ignore
    expect(look(under(uneven, { rotation: 90 })).map(({ finding }) => finding.cause)).not.to.include('lighting.environment-seam'); // prettier-ignore
    // A mirror that stands upright before the camera shows what is behind it: turned by half, the seam is there.
    const mirror = scene(
      [{ mesh: square(2, 0), material: { metallic: 1, roughness: 0, baseColour: [1, 1, 1] }, object: { name: 'mirror' } }],
      { environment: { ...evenEnvironment([1, 1, 1]), kind: 'image', texture: 'sky', rotation: 180 } },
      { width: 48, height: 48, samples: 4 },
    ); // prettier-ignore
    mirror.document.textures.sky = { file: 'sky.jpg', colourSpace: 'srgb' };
    mirror.assets.textures.set('sky', uneven);
    const [inMirror] = look(mirror).filter(({ finding }) => finding.cause === 'lighting.environment-seam');
    expect(inMirror.finding.sentence).to.equal('The seam of the environment is seen in mirror: a hard upright line.');
    const input = inputOf(mirror, renderShot(mirror));
    const seen = new SkyWalk(input.scene, input.document, settingsOf(input.sheet)).skyAt(23.5, 23.5)!;
    expect(seen.by).to.deep.equal([0]);
    seen.direction.forEach((v, a) => expect(v).to.be.closeTo([0, 0, 1][a], 1e-9));
  });

  it('calls sides alike where no light has a direction, and the key it proposes parts them', () => {
    const parts = [{ mesh: box([-8, -1.1, -8], [8, -1, 8]), material: grey }, { mesh: sphere(0.5), material: grey }]; // prettier-ignore
    const even = scene(
      parts,
      { environment: evenEnvironment([0.5, 0.5, 0.5]) },
      { width: 48, height: 48, samples: 16 },
    );
    even.document.cameras.main.transform = lookAt([0, 1, 5], [0, -0.3, 0]);
    const found = look(even);
    expect(found.map(({ finding }) => finding.cause)).to.deep.equal(['lighting.flat-sides']);
    const after = cured(even, found);
    expect(look(after).map(({ finding }) => finding.cause)).not.to.include('lighting.flat-sides');
    const lit = structuredClone(even);
    lit.document.lights.key = { ...defaultLight('distant'), transform: lookAt([2, 2, 1], [0, 0, 0]), intensity: 2 };
    expect(flatCases(inputOf(lit, renderShot(lit)))).to.deep.equal([]);
  });

  it('measures an environment: an even one has a hundredth of its light in a hundredth of the sphere', () => {
    const even = measureEnvironment(compiled(under(image(() => 0.5))))!;
    expect(even.brightest.share).to.be.closeTo(0.01, 5e-4);
    // Irradiance of an even hemisphere: π L.
    expect(even.level).to.be.closeTo(0.5 * Math.PI, 0.002);
    const lamp = measureEnvironment(compiled(under(image((x, y) => (x === 16 && y === 8 ? 1000 : 0.5)), { rotation: 30 })))!; // prettier-ignore
    const solid = ((2 * Math.PI) / WIDTH) * (Math.cos((8 * Math.PI) / HEIGHT) - Math.cos((9 * Math.PI) / HEIGHT));
    // Bilinear look-ups spread a texel over its neighbours; its light stays.
    expect(lamp.brightest.share).to.be.closeTo((1000 * solid) / (1000 * solid + 0.5 * 4 * Math.PI), 0.02);
    expect(lamp.brightest.elevation).to.be.closeTo(90 - (8.5 * 180) / HEIGHT, 1);
  });

  it('tells what a place gets however the environment is turned: as the renderer does with that rotation', () => {
    // A wall to the left of the place keeps the lamp away when it stands behind.
    const texture = image((x, y) => (Math.hypot(x - 16, y - 11) < 2 ? 30 : 0.2));
    const shot = under(texture);
    shot.document.cameras.main.transform = lookAt([0, 3, 4], [0, -1, 0]);
    const wall = { mesh: box([-1.1, -1, -2], [-1, 1.5, 2]), material: grey };
    const walled = scene([{ mesh: box([-3, -1.1, -6], [3, -1, 4]), material: grey }, wall], { ...shot.document, meshes: {}, objects: {}, materials: {} }, { width: 48, height: 48, samples: 4 }); // prettier-ignore
    walled.assets.textures.set('sky', texture);
    const walk = (rotation: number) => {
      const document = { ...walled.document, environment: { ...walled.document.environment, rotation } };
      return new LightWalk(compiled({ ...walled, document }), document, settingsOf(document.sheets.preview));
    };
    const place = walk(0).surfaceAt(24, 24)!;
    const turned = sweepRotation(walk(0), [place], { steps: 8, rays: 2048 });
    const brought = turned.map(({ irradiance }) => irradiance);
    expect(Math.max(...brought) / Math.min(...brought), 'the wall is in the way of some').to.be.above(1.5);
    for (const { turn, irradiance } of turned) {
      const own = walk(turn);
      const row = own.scene.lightIds.indexOf('environment');
      expect(irradiance).to.be.closeTo(arrivingWith(own.towards(own.surfaceAt(24, 24)!, row, 2048).rays, 0), 0.02 * irradiance); // prettier-ignore
    }
  });

  it('turns the sun of a daylight sky with it', () => {
    const day = (rotation: number) => {
      const shot = under(image(() => 0.5));
      Object.assign(shot.document.environment, { kind: 'daylight', texture: null, rotation, intensity: 0.01 });
      Object.assign(shot.document.environment.daylight, { elevation: 30, azimuth: 90, sun: true });
      shot.document.cameras.main.transform = lookAt([0, 3, 4], [0, -1, 0]);
      // A wall to the east.
      const wall = { mesh: box([0.6, -1, -2], [0.7, 1.5, 2]), material: grey };
      const walled = scene([{ mesh: box([-3, -1.1, -6], [3, -1, 4]), material: grey }, wall], { ...shot.document, meshes: {}, objects: {}, materials: {} }, { width: 48, height: 48, samples: 4 }); // prettier-ignore
      return new LightWalk(compiled(walled), walled.document, settingsOf(walled.document.sheets.preview));
    };
    const still = day(0);
    const place = still.surfaceAt(24, 24)!;
    const turned = sweepRotation(still, [place], { steps: 4, rays: 1024 });
    expect(turned[2].irradiance / turned[0].irradiance, 'the wall is in the way of the sun where it stands').to.be.above(2); // prettier-ignore
    for (const { turn, irradiance } of turned) {
      const own = day(turn);
      const there = own.surfaceAt(24, 24)!;
      const rows = ['environment', 'sun of the sky'].map((id) => own.scene.lightIds.indexOf(id));
      const all = rows.reduce((sum, row) => sum + arrivingWith(own.towards(there, row, 1024).rays, 0), 0);
      expect(irradiance, `${turn}°`).to.be.closeTo(all, 0.03 * all);
    }
  });

  it('tells a pole that is pinched to a star from one that is of one colour, and mends it', () => {
    // Light that grows along X as a plane through all directions: at the pole it varies with the sine of the angle to it.
    const sky = compileSky({ ...evenEnvironment([1, 1, 1]), kind: 'image', texture: 'sky' }, 0, [image(() => 1)], false); // prettier-ignore
    const plane = image((x, y) => 0.5 + 0.45 * directionOf(sky, (x + 0.5) / WIDTH, 1 - (y + 0.5) / HEIGHT)[0]);
    expect(poleFaults(plane)).to.deep.equal([]);
    const random = randomNumbers(3);
    expect(poleFaults(image(() => random())), 'as busy everywhere').to.deep.equal([]);
    const clamped = { ...plane, texels: plane.texels.slice() };
    for (let k = 0; k < 5; k++) clamped.texels.copyWithin(3 * WIDTH * k, 3 * WIDTH * 5, 3 * WIDTH * 6);
    const [fault, ...rest] = poleFaults(clamped);
    expect([fault.pole, fault.rows, rest.length]).to.deep.equal(['top', 6, 0]);
    // Between the 5th and the 95th percentile of a cosine: ±cos 9°, at 5.5 rows of 5.625° from the pole.
    const reach = 0.45 * Math.sin((5.5 * Math.PI) / HEIGHT) * Math.cos(Math.PI / 20);
    expect(fault.stops).to.be.closeTo(Math.log2((0.5 + reach) / (0.5 - reach)), 0.05);
    const even = withEvenPoles(clamped, { top: 12 });
    expect(poleFaults(even)).to.deep.equal([]);
    expect([...even.texels.subarray(3 * WIDTH * 12)]).to.deep.equal([...clamped.texels.subarray(3 * WIDTH * 12)]);

    const level = under(clamped, {}, 'sky.hdr');
    const told = (shot: BenchShot) => look(shot).filter(({ finding }) => /star/.test(finding.sentence));
    expect(told(level), 'nothing looks up').to.deep.equal([]);
    const up = under(clamped, {}, 'sky.hdr');
    up.document.cameras.main.transform = lookAt([0, 0, 5], [0, 9, 4.5]);
    const [found] = told(up);
    expect(found.finding).to.include({ cause: 'lighting.environment-seam', headline: 'The top 6 rows of sky.hdr repeat one row: 33.8° about the pole' }); // prettier-ignore
    const { work } = found.finding.remedies[0].change as { work: unknown };
    expect(work).to.deep.equal({ kind: 'even poles', textures: { sky: { top: 8 } } });
  });

  it('puts a mended environment in the place of the old one, in a new file', async () => {
    const shot = under(
      image((x) => 0.2 + x / 100),
      {},
      'sky.png',
    );
    const png = writePng(WIDTH, HEIGHT, Uint8Array.from({ length: 3 * WIDTH * HEIGHT }, (_, i) => Math.floor(i / 3) % WIDTH)); // prettier-ignore
    const { patch, files } = await carryOut(shot.document, { patch: [], work: { kind: 'even poles', textures: { sky: { top: 4 } } } }, async (path) => (path === 'sky.png' ? png : null)); // prettier-ignore
    const after = applyPatch(shot.document, patch);
    expect(after.environment).to.include({ texture: 'sky-even-poles' });
    const made = readPngTexture(files.get(after.textures['sky-even-poles'].file)!, 'srgb', 'sky');
    const rangeOf = (y: number) => {
      const row = made.texels.subarray(3 * WIDTH * y, 3 * WIDTH * (y + 1));
      return Math.max(...row) - Math.min(...row);
    };
    expect(rangeOf(0), 'of the top row').to.be.below(0.1 * rangeOf(8));
  });

  it('tells floats of a display picture by their levels, in halves as well, and undoes their curve', () => {
    const random = randomNumbers(5);
    const levels = Float32Array.from({ length: 4000 }, () => Math.floor(random() * 256) / 255);
    const halves = levels.map((v) => HALF_TO_FLOAT[halfOf(v)]);
    expect([displayGrid(levels), displayGrid(halves)]).to.deep.equal(['display', 'display']);
    expect([displayGrid(levels.map(linearFromSrgb)), displayGrid(halves.map(linearFromSrgb))]).to.deep.equal(['undone', 'undone']); // prettier-ignore
    expect(displayGrid(levels.map(() => random())), 'light').to.equal(null);
    expect(displayGrid(levels.map((v) => 2 * v)), 'brighter than white').to.equal(null);
    expect(displayGrid(levels.map(() => 0)), 'black').to.equal(null);

    const sky = { ...image((x, y) => Math.round(255 * (0.2 + 0.6 * ((x + y * WIDTH) / (WIDTH * HEIGHT)))) / 255), colourSpace: undefined }; // prettier-ignore
    const [found] = look(under(sky, {}, 'sky.exr'));
    expect(found.finding).to.include({ cause: 'lighting.display-curve-twice', sentence: 'sky.exr lights the scene with a display curve in its values.' }); // prettier-ignore
    expect(found.finding.remedies[0].change).to.have.nested.property('work.kind', 'undo curve');
    const [dim] = [found.finding.remedies[0].predicted!].map((effect) => changeOf(effect, 'brightness')!);
    expect(dim, 'dark parts light less').to.be.below(-0.5);
  });

  it('tells a picture that holds display values, and no other', () => {
    const random = randomNumbers(6);
    const planes = (value: () => number) => new Map(['R', 'G', 'B'].map((name) => [name, Float32Array.from({ length: 64 * 64 }, value)])); // prettier-ignore
    const told = (value: () => number) => diagnosePicture(planesInput({ width: 64, height: 64, planes: planes(value) }, null)!, [lighting]); // prettier-ignore
    const [found] = told(() => Math.floor(random() * 256) / 255);
    expect(found).to.include({ cause: 'lighting.display-curve-twice' });
    expect(told(() => random())).to.deep.equal([]);
    expect(told(() => linearFromSrgb(Math.floor(random() * 256) / 255))).to.deep.equal([]);
  });
});
