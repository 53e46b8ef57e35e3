/** Completing documents, controls read off the schema, shared fragments, and figures that must go together. */
import { expect } from 'chai';
import { canonicalText } from '../../core/document/canonical.ts';
import { completeDocument } from '../../core/document/complete.ts';
import { controlsOf, itemsOf } from '../../core/document/controls.ts';
import { defaultCoat, defaultFog, defaultLight, defaultMap, defaultMaterial } from '../../core/document/defaults.ts';
import { isOfDocument, placesOf, pointerOf } from '../../core/document/pointers.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { validateDocument } from '../../core/document/validate.ts';
import { writePfm, readPfmTexture } from '../../core/formats/pfm.ts';
import { writePng } from '../../core/formats/png.ts';
import { mapOf } from '../../core/render/compile/assets.ts';
import { loadAssets, referencedFiles } from '../../core/render/compile/load-assets.ts';
import { demoShots } from '../../demo/shots.ts';
import { builtOnce } from './built.ts';
import { compiled, meanOf, render, scene, square } from './helpers.ts';

const plain = (): ShotDocument =>
  scene([{ mesh: square(1, 0) }], {
    lights: { sun: defaultLight('distant'), lamp: defaultLight('spot') },
    maps: { noise: defaultMap('noise-object') },
    coats: { lacquer: defaultCoat() },
    fog: defaultFog(),
  }).document;

describe('documents that leave things unsaid', () => {
  it('are completed with what a new item starts with, and stay as they are when complete', () => {
    const short = { schema: 'dusting.shot/1', code: 'A', name: '', camera: 'c', cameras: { c: { name: '', transform: plain().cameras.main.transform, fieldOfView: 20 } }, materials: { tin: { metallic: 1 } }, sheets: { preview: { samples: 8 }, final: {} } }; // prettier-ignore
    const document = validateDocument(short);
    expect(document.materials.tin).to.deep.equal({ ...defaultMaterial(), metallic: 1 });
    expect(document.sheets.preview.limits.transmission).to.equal(9);
    expect(document.sheets.preview.samples).to.equal(8);
    expect(canonicalText(completeDocument(JSON.parse(canonicalText(document))) as object)).to.equal(
      canonicalText(document),
    );
  });

  it('keep what is wrong in them, to be told', () => {
    const wrong = { ...plain(), materials: { tin: 'shiny' }, lights: { x: { kind: 'laser' } } };
    try {
      validateDocument(wrong);
      expect.fail('accepted');
    } catch (error) {
      const paths = (error as InvalidInput).problems.map((p) => p.path);
      expect(paths).to.include('/materials/tin');
      expect(paths.some((p) => p.startsWith('/lights/x'))).to.equal(true);
    }
  });
});

describe('figures that must go together', () => {
  const cases: [string, (d: ShotDocument) => void, string, RegExp][] = [
    ['more samples than any machine would finish', (d) => Object.assign(d.sheets.final, { width: 16384, height: 16384, samples: 65536 }), '/sheets/final/samples', /samples, more than/],
    ['adaptive samples with more at least than at most', (d) => Object.assign(d.sheets.preview.adaptive, { on: true, least: 128 }), '/sheets/preview/adaptive/least', /at most the 64/],
    ['stops out of order', (d) => (d.environment.stops = [{ at: 0.5, colour: [1, 1, 1] }, { at: 0.2, colour: [0, 0, 0] }]), '/environment/stops/1/at', /at least 0\.5/],
    ['an image environment without its image', (d) => (d.environment.kind = 'image'), '/environment/texture', /id of a texture/],
    ['an object without its mesh', (d) => (d.objects.part0.mesh = null), '/objects/part0/mesh', /id of a mesh/],
    ['motion keys out of order', (d) => (d.objects.part0.keys = [2, 1].map((frame) => ({ frame, transform: d.objects.part0.transform, mesh: null }))), '/objects/part0/keys/1/frame', /more than 2/],
    ['a fog box inside out', (d) => (d.fog!.box = { min: [1, 0, 0], max: [0, 1, 1] }), '/fog/box/min/0', /less than 0/],
    ['a link to an object that is not there', (d) => (d.lights.sun.lights = { mode: 'only', objects: ['gone'] }), '/lights/sun/lights/objects/0', /id of an object/],
    ['a map that is not there', (d) => (d.materials.part0.bumpMap = 'gone'), '/materials/part0/bumpMap', /id of a map/],
    ['a light out of range', (d) => (d.lights.sun.intensity = -1), '/lights/sun/intensity', /at least 0/],
  ]; // prettier-ignore
  for (const [what, change, path, expected] of cases)
    it(`are refused with path and reason: ${what}`, () => {
      const document = plain();
      change(document);
      try {
        validateDocument(document);
        expect.fail('accepted');
      } catch (error) {
        const problem = (error as InvalidInput).problems?.find((p) => p.path === path);
        expect(problem, `${path} among ${error}`).to.not.equal(undefined);
        expect(problem!.expected).to.match(expected);
      }
    });
});

describe('controls of a scene', () => {
  it('are there for every key of every item of every demo shot, each with its value, range and help', async () => {
    for (const build of Object.values(demoShots)) {
      const { document } = await builtOnce(build);
      for (const item of itemsOf(document)) {
        const controls = controlsOf(document, item);
        expect(controls.length, item.pointer).to.be.above(item.group === 'Shot' ? 1 : 2);
        for (const control of controls) {
          expect(item.group === 'Shot' || control.pointer.startsWith(`${item.pointer}/`), control.key).to.equal(true);
          expect(control.value, control.pointer).to.not.equal(undefined);
          if (control.kind === 'number') expect(control.max, control.pointer).to.be.a('number');
          if (control.kind === 'number' || control.kind === 'switch')
            expect(control.help, control.pointer).to.not.equal('');
        }
      }
    }
  });

  it('name units where the field has them, and ids that can be chosen', () => {
    const document = plain();
    const sun = controlsOf(document, { pointer: '/lights/sun' });
    expect(sun.find((c) => c.pointer === '/lights/sun/intensity')!.unit).to.equal('W/m²');
    expect(sun.find((c) => c.pointer === '/lights/sun/angle')!.unit).to.equal('°');
    expect(sun.find((c) => c.pointer === '/lights/sun/shadowDistance')).to.include({ optional: true, unit: 'm', value: null });
    const material = controlsOf(document, { pointer: '/materials/part0' });
    expect(material.find((c) => c.pointer.endsWith('/bumpMap'))).to.deep.include({ kind: 'choice', choices: ['noise'], optional: true });
  }); // prettier-ignore

  it('have the names of the trade', () => {
    const document = plain();
    const labels = itemsOf(document).flatMap((item) => controlsOf(document, item).map(({ label }) => label));
    expect(labels).to.include.members(['Index of refraction', 'UV set', 'Gradient stops', 'Light linking', 'Shadow-linked objects', 'Visible to specular rays', 'Attenuation distance', 'Shadow colour']); // prettier-ignore
    for (const label of labels) expect(label).to.match(/^[A-Z][A-Za-z]*( [a-z]|-[a-z]|$)/);
  });

  it('have pointers that tell those of sheets from those of the document', () => {
    expect(isOfDocument('/lights/sun/angle')).to.equal(true);
    expect(isOfDocument('/limits/overall')).to.equal(false);
    expect(placesOf('/limits/overall', ['preview', 'final'])).to.deep.equal(['/sheets/preview/limits/overall', '/sheets/final/limits/overall']);
    expect(placesOf('/fog/density', ['preview'])).to.deep.equal(['/fog/density']);
    for (const pointer of ['/samples', '/lights/sun/angle']) expect(pointerOf(placesOf(pointer, ['final'])[0])).to.equal(pointer);
  }); // prettier-ignore
});

describe('fragments shared by documents', () => {
  const fragments = {
    schema: 'dusting.fragments/1',
    textures: { oak: { file: 'library/oak.png', colourSpace: 'srgb' } },
    maps: { grain: { kind: 'image', texture: 'oak', scale: [2, 2] } },
    coats: { varnish: { kind: 'coat', strength: 0.4, roughness: 0.2 } },
  };
  const further = { schema: 'dusting.fragments/1', maps: { grain: { kind: 'shared', file: 'library/wood.json', item: 'grain', override: { rotation: 30 } } } }; // prettier-ignore
  const files = new Map<string, Uint8Array>([
    ['library/wood.json', new TextEncoder().encode(JSON.stringify(fragments))],
    ['library/show.json', new TextEncoder().encode(JSON.stringify(further))],
    ['library/oak.png', writePng(1, 1, Uint8Array.of(255, 0, 0))],
  ]);
  const document = (map: object) => {
    const d = plain();
    d.meshes = {};
    d.objects = {};
    d.maps = { mine: map as never };
    d.coats = { lacquer: { kind: 'shared', file: 'library/wood.json', item: 'varnish', override: { roughness: 0.5 } } };
    return d;
  };

  it('come through a chain of files, the referring document’s overrides last', async () => {
    const d = document({ kind: 'shared', file: 'library/show.json', item: 'grain', override: { scale: [5, 5] } });
    const assets = await loadAssets(d, async (p) => files.get(p) ?? null, 'x');
    expect(mapOf(d, assets, 'mine')).to.include({ kind: 'image', rotation: 30 });
    expect(mapOf(d, assets, 'mine')).to.deep.include({ scale: [5, 5] });
    expect(assets.shared!.coats.get('lacquer')).to.include({ strength: 0.4, roughness: 0.5 });
    expect([...assets.textures.values()][0].texels[0]).to.equal(1);
    expect(referencedFiles(d)).to.include('library/show.json');
  });

  it('that are missing are told with the place and the file', async () => {
    const told = async (map: object) => {
      try {
        await loadAssets(document(map), async (p) => files.get(p) ?? null, 'x');
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(await told({ kind: 'shared', file: 'library/none.json', item: 'grain', override: {} })).to.match(/\/maps\/mine.*none\.json/);
    expect(await told({ kind: 'shared', file: 'library/wood.json', item: 'ash', override: {} })).to.match(/wood\.json has no "ash"/);
  }); // prettier-ignore
});

describe('portable float maps', () => {
  it('come back as they were written, from the top row down', () => {
    const texels = Float32Array.from({ length: 18 }, (_, i) => i / 3 - 1);
    const read = readPfmTexture(writePfm(3, 2, texels), 'a.pfm');
    expect([read.width, read.height]).to.deep.equal([3, 2]);
    expect([...read.texels]).to.deep.equal([...texels]);
  });

  it('that are broken are refused by name', () => {
    expect(() => readPfmTexture(new TextEncoder().encode('P6 2 2 255 '), 'a.pfm')).to.throw(RangeError, 'a.pfm');
    expect(() => readPfmTexture(writePfm(3, 2, new Float32Array(18)).subarray(0, 40), 'a.pfm')).to.throw(/cut off/);
  });

  it('with negative, infinite or no numbers count as 0 there and are warned about', () => {
    const test = scene([{ mesh: square(2, 0) }], { environment: { ...plain().environment, kind: 'image', texture: 'sky', intensity: 1 } });
    test.document.textures.sky = { file: 'sky.pfm', colourSpace: 'linear' };
    const texels = new Float32Array(8 * 4 * 3).fill(1);
    texels.set([NaN, -4, Infinity], 30);
    test.assets.textures.set('sky', { width: 8, height: 4, texels, alpha: null });
    expect(compiled(test).warnings.join()).to.match(/"sky" has 3 values that are negative, infinite or no numbers/);
    const { mean } = meanOf(render(test, undefined, 16));
    expect(mean).to.be.within(0.1, 1);
  }); // prettier-ignore
});
