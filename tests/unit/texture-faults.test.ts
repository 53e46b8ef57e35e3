/** What is wrong with images: alpha by Porter & Duff (1984), colour spaces by IEC 61966-2-1, texels against pixels in closed form. */
import { expect } from 'chai';
import { together } from '../../core/diagnose/version-findings.ts';
import { lookInRender } from '../../core/diagnose/run.ts';
import { textures } from '../../core/diagnose/textures/definition.ts';
import { edgesOf } from '../../core/diagnose/textures/faults/alpha-edges.ts';
import { isDrawn } from '../../core/diagnose/textures/faults/meant-sharp.ts';
import { mapUses } from '../../core/diagnose/textures/uses.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import { applyPatch } from '../../core/document/patch.ts';
import type { RepairWork } from '../../core/contracts/intake.ts';
import { linearFromSrgb } from '../../core/data/colour.ts';
import { writeExr } from '../../core/formats/exr/write.ts';
import { writePng } from '../../core/formats/png.ts';
import { readTexture } from '../../core/formats/texture-readers.ts';
import { mendAlpha } from '../../core/textures/mend-alpha.ts';
import { image, patches, print, texturesFaults } from '../blind/faults/textures.ts';
import { Draft, Draw } from '../blind/shots.ts';
import { inputOf, renderShot } from './bench-shot.ts';

const disc = (x: number, y: number) => Math.min(1, Math.max(0, (0.35 - Math.hypot(x - 0.5, y - 0.5)) * 20 + 0.5));
const honey = [0.7, 0.4, 0.1];
/** With few samples: what images are needs no clean picture. */
function look(draft: Draft) {
  draft.sheet.samples = 8;
  return lookInRender(inputOf(draft.shot, renderShot(draft.shot)), textures).map(({ finding }) => finding);
}

describe('alpha', () => {
  it('tells straight colours from premultiplied ones, and both from a fringe', () => {
    const straight = image(64, (x, y) => [honey[0], honey[1], honey[2], disc(x, y)]);
    const multiplied = image(64, (x, y) => { const a = disc(x, y); return [honey[0] * a, honey[1] * a, honey[2] * a, a]; }); // prettier-ignore
    const dark = image(64, (x, y) => (disc(x, y) > 0 ? [honey[0], honey[1], honey[2], disc(x, y)] : [0, 0, 0, 0]));
    const light = image(64, (x, y) => (disc(x, y) > 0 ? [honey[0], honey[1], honey[2], disc(x, y)] : [1, 1, 1, 0]));
    const opaque = image(64, () => 0.5);
    expect([straight, multiplied, dark, light, opaque].map(edgesOf)).to.deep.equal(['clean', 'premultiplied', 'fringe', 'fringe', 'clean']); // prettier-ignore
  });

  it('is divided out of what was multiplied by it, wherever there is any: c α / α = c', () => {
    const multiplied = image(64, (x, y) => { const a = disc(x, y); return [honey[0] * a, honey[1] * a, honey[2] * a, a]; }); // prettier-ignore
    const { texels, alpha } = mendAlpha('divide', multiplied);
    alpha!.forEach((a, i) => {
      if (a > 0.01) for (let c = 0; c < 3; c++) expect(texels[3 * i + c]).to.be.closeTo(honey[c], 1e-4);
    });
    expect(edgesOf(mendAlpha('divide', multiplied))).to.equal('clean');
  });

  it('keeps its colours where they are, and has them under what is not there', () => {
    const dark = image(64, (x, y) => (disc(x, y) > 0 ? [honey[0], honey[1], honey[2], disc(x, y)] : [0, 0, 0, 0]));
    const bled = mendAlpha('bleed', dark);
    expect(edgesOf(bled)).to.equal('clean');
    expect([...bled.alpha!]).to.deep.equal([...dark.alpha!]);
    dark.alpha!.forEach((a, i) => {
      if (a === 1) expect([...bled.texels.subarray(3 * i, 3 * i + 3)]).to.deep.equal([...dark.texels.subarray(3 * i, 3 * i + 3)]); // prettier-ignore
    });
  });

  it('is mended in a new file, which every map that shows the old one gets', async () => {
    const rgba = Uint8Array.from({ length: 4 * 32 * 32 }, (_, k) => {
      const [i, c] = [k >> 2, k & 3];
      const a = disc(((i % 32) + 0.5) / 32, (Math.floor(i / 32) + 0.5) / 32);
      return c === 3 ? Math.round(255 * a) : a > 0 ? 180 : 0;
    });
    const files = new Map([['print.png', writePng(32, 32, rgba)]]);
    const draft = new Draft(new Draw(3));
    print(draft, { texture: readTexture(files.get('print.png')!, 'srgb', 'print.png'), material: { baseColourMap: 'print' } }); // prettier-ignore
    const made = await carryOut(draft.document, { patch: [], work: { kind: 'mend alpha', how: 'bleed', textures: ['print'] } }, async (path) => files.get(path) ?? null); // prettier-ignore
    expect([...made.files.keys()]).to.deep.equal(['textures/print-bled.png']);
    const { maps, textures: all } = applyPatch(draft.document, made.patch);
    expect(maps.print).to.deep.include({ texture: 'print-bled' });
    expect(all['print-bled']).to.deep.equal({ file: 'textures/print-bled.png', colourSpace: 'srgb' });
    const mended = readTexture(made.files.get('textures/print-bled.png')!, 'srgb', 'print-bled.png');
    expect(edgesOf(mended)).to.equal('clean');
    expect(edgesOf(readTexture(files.get('print.png')!, 'srgb', 'print.png'))).to.equal('fringe');
  });
});

describe('an image that is larger than any sheet shows', () => {
  it('is shown smaller by a new file, of 8 bits or of floats as it was, and its trial shows that nothing is lost', async () => {
    const draft = new Draft(new Draw(81));
    texturesFaults.find(({ cause }) => cause === 'textures.too-large')!.plant(draft);
    const [{ remedies, headline }] = look(draft);
    const { change, predicted } = remedies[0];
    const work = (change as { work: RepairWork }).work as Extract<RepairWork, { kind: 'shrink textures' }>;
    const times = work.textures.print;
    expect(times).to.be.at.least(2);
    expect(headline).to.include(`${1024 / 2 ** times} × ${1024 / 2 ** times} would do`);
    expect(Math.abs(predicted!.figures.find(({ id }) => id === 'brightness')!.after! - predicted!.figures.find(({ id }) => id === 'brightness')!.before!)).to.be.below(0.02); // prettier-ignore
    const steps = (width: number, channels: number) => Uint8Array.from({ length: channels * width * width }, (_, k) => (Math.floor(k / channels) % 2 ? 200 : 100)); // prettier-ignore
    const plane = Float32Array.from({ length: 16 }, (_, k) => (k % 2 ? 3 : -1));
    const deep = writeExr({ x: 0, y: 0, width: 4, height: 4, channels: new Map(['R', 'G', 'B'].map((name) => [name, plane])) }, { display: { width: 4, height: 4 }, compression: 'PIZ', deflate: (bytes) => bytes }); // prettier-ignore
    const files = new Map([['print.png', writePng(8, 8, steps(8, 3))], ['deep.exr', deep]]); // prettier-ignore
    draft.document.textures.deep = { file: 'deep.exr', colourSpace: 'linear' };
    const made = await carryOut(draft.document, { patch: [], work: { kind: 'shrink textures', textures: { print: 1, deep: 2 } } }, async (path) => files.get(path) ?? null); // prettier-ignore
    expect([...made.files.keys()]).to.deep.equal(['textures/print-by-2.png', 'textures/deep-by-4.exr']);
    const [small, floats] = [...made.files].map(([path, bytes]) => readTexture(bytes, path.endsWith('png') ? 'srgb' : 'linear', path)); // prettier-ignore
    expect([small.width, small.height, floats.width, floats.height]).to.deep.equal([4, 4, 1, 1]);
    // Of light, not of codes: the mean of 100 and 200 in sRGB is 160 of 255 (IEC 61966-2-1), not 150.
    const mean = (linearFromSrgb(100 / 255) + linearFromSrgb(200 / 255)) / 2;
    expect(small.texels[0]).to.be.closeTo(mean, 0.004);
    expect(floats.texels[0]).to.be.closeTo(1, 1e-3);
    expect(applyPatch(draft.document, made.patch).maps.print).to.deep.include({ texture: 'print-by-2' });
  });
});

describe('texels', () => {
  it('are as many a pixel as the board has texels over the pixels that it is wide', () => {
    const draft = new Draft(new Draw(4));
    print(draft, { texture: image(256, () => 0.5), material: { baseColourMap: 'print' } });
    // Straight on, 1.6 m wide at a known distance.
    Object.assign(draft.document.objects.board, { transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 1, 0, 1] });
    Object.assign(draft.document.cameras.main, { transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 1, 4, 1], fieldOfView: 30 }); // prettier-ignore
    const [use] = mapUses(inputOf(draft.shot, renderShot(draft.shot)));
    const { height } = draft.sheet;
    const wide = 1.6 / ((2 * 4 * Math.tan((15 * Math.PI) / 180)) / height);
    expect(use.texels!).to.be.closeTo(256 / wide, 0.02 * (256 / wide));
    expect(use.metres!).to.be.closeTo(1.6 / 256, 0.02 * (1.6 / 256));
  });

  it('that were drawn one by one are told from photographs of the same size', () => {
    const draft = new Draft(new Draw(1));
    expect(isDrawn(image(16, (x, y) => (Math.floor(8 * x) + Math.floor(8 * y)) % 2))).to.equal(true);
    expect(isDrawn(image(16, patches(draft, 6)))).to.equal(false);
    expect(isDrawn(image(16, () => 0.5)), 'one colour').to.equal(false);
    expect(isDrawn(image(512, (x) => Math.round(x))), 'large').to.equal(false);
  });
});

describe('textures that are wrong', () => {
  for (const [k, fault] of texturesFaults.entries())
    it(`are told, and by nothing else of the family: ${fault.cause}`, () => {
      const draft = new Draft(new Draw(60 + k));
      fault.plant(draft);
      expect(look(draft).map(({ cause }) => cause)).to.deep.equal([fault.cause]);
    });

  it('are not told where an image is as it should be', () => {
    for (const seed of [1, 2]) {
      const draft = new Draft(new Draw(seed));
      print(draft, { texture: { ...image(128, patches(draft, 9)), colourSpace: 'srgb' }, material: { baseColourMap: 'print' } }); // prettier-ignore
      expect(look(draft).map(({ sentence }) => sentence)).to.deep.equal([]);
    }
  });

  it('are right once their first remedy is set: alpha that was lost, an image on its head', () => {
    for (const cause of ['textures.alpha-lost', 'textures.upside-down']) {
      const draft = new Draft(new Draw(77));
      texturesFaults.find((fault) => fault.cause === cause)!.plant(draft);
      const [{ remedies }] = look(draft);
      const { change } = remedies[0];
      expect(change?.kind, cause).to.equal('values');
      const document = withValues(draft.document, ['preview'], (change as { values: ControlValues }).values);
      const shot = { ...draft.shot, document };
      expect(lookInRender(inputOf(shot, renderShot(shot)), textures).map(({ finding }) => finding.sentence), cause).to.deep.equal([]); // prettier-ignore
    }
  });

  it('are not told of a sibling that shows something else, nor of drawings that look the same either way up', () => {
    const lost = new Draft(new Draw(78));
    texturesFaults.find(({ cause }) => cause === 'textures.alpha-lost')!.plant(lost);
    const other = patches(lost, 5);
    const cut = lost.textures.get('print_alpha')!;
    lost.textures.set('print_alpha', { ...cut, texels: image(96, (x, y) => other(y, x)).texels });
    expect(look(lost).map(({ cause }) => cause)).to.deep.equal([]);
    const turned = new Draft(new Draw(79));
    texturesFaults.find(({ cause }) => cause === 'textures.upside-down')!.plant(turned);
    const same = (x: number, y: number) => (Math.floor(6 * x) + Math.floor(6 * Math.abs(y - 0.5))) % 2;
    turned.textures.set(
      'print',
      image(128, (x, y) => 0.2 + 0.4 * same(x, y)),
    );
    turned.textures.set(
      'relief',
      image(128, (x, y) => 0.4 + 0.2 * same(x, 1 - y)),
    );
    expect(look(turned).map(({ cause }) => cause)).to.deep.equal([]);
  });

  it('of a colour read as data are too light by what IEC 61966-2-1 says: 1.2 stops at a half', () => {
    const draft = new Draft(new Draw(5));
    print(draft, { texture: { ...image(64, () => 0.5), colourSpace: 'linear' }, material: { baseColourMap: 'print' }, spec: { colourSpace: 'linear' } }); // prettier-ignore
    const [{ remedies }] = look(draft);
    const brightness = remedies[0].predicted!.figures.find(({ id }) => id === 'brightness')!;
    // A surface in a room gets some of its own light back.
    expect(brightness.after! - brightness.before!).to.be.within(-1.6, -1.15);
  });

  it('are one finding where preflight sees the same', () => {
    const render = { key: 'r', cause: 'textures.colour-read-as-data', severity: 'caution' as const, of: 'render' as const }; // prettier-ignore
    const version = { key: 'v', cause: 'textures.data-read-as-colour', check: 'texture-colour-space', severity: 'caution' as const, of: 'version' as const }; // prettier-ignore
    expect(together([render], [version])).to.deep.equal([{ ...render, check: 'texture-colour-space' }]);
  });
});
