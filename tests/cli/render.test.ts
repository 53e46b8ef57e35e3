/** The shell command, end to end: what it writes is read back by Debian's openexr and openimageio-tools. */
import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import process from 'node:process';
import { expect } from 'chai';
import { Document, WebIO } from '@gltf-transform/core';
import { EmissiveStrength, KHRMaterialsEmissiveStrength, KHRLightsPunctual } from '@gltf-transform/extensions';
import type { RenderReport } from '../../core/contracts/render-report.ts';
import { InvalidInput } from '../../core/document/problem.ts';
import { buildShell } from '../../scripts/lib/build-shell.mjs';
import { BadUse } from '../../cli/bad-use.ts';
import { renderCommand } from '../../cli/render.ts';
import { smallShot } from '../api/small-shot.ts';
import { square } from '../unit/helpers.ts';

const main = await buildShell();
const folder = mkdtempSync(join(tmpdir(), 'dusting-cli-'));
const out = join(folder, 'out.exr');

function dusting(...args: string[]): { code: number; out: string; errors: string } {
  const r = spawnSync(process.execPath, [main, ...args], { encoding: 'utf8' });
  return { code: r.status ?? 1, out: r.stdout, errors: r.stderr };
}

const report = (...args: string[]): RenderReport => {
  const result = dusting('render', ...args, '--out', out, '--json');
  expect(result.errors).to.equal('');
  expect(result.code).to.equal(0);
  return JSON.parse(result.out) as RenderReport;
};

/** Mean of each channel over the file, as oiiotool's statistics tell it. */
function means(file: string): Record<string, number> {
  const text = execFileSync('oiiotool', ['--info', '-v', '--stats', file], { encoding: 'utf8' });
  const names = /channel list: (.*)/
    .exec(text)![1]
    .split(', ')
    .map((n) => n.trim());
  const values = /Stats Avg: (.*) \(float\)/.exec(text)![1].trim().split(/\s+/).map(Number);
  return Object.fromEntries(names.map((name, i) => [name, values[i]]));
}

describe('dusting render', function () {
  this.timeout(120_000);
  const shot = join(folder, 'shot');

  before(async () => {
    const { document, files } = await smallShot('CLI', { samples: 8 });
    for (const [path, bytes] of [['shot.json', JSON.stringify(document)] as const, ...files]) {
      mkdirSync(dirname(join(shot, path)), { recursive: true });
      writeFileSync(join(shot, path), bytes);
    }
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('writes every pass as a named layer that OpenImageIO reads, with the means it reports', () => {
    const told = report(shot);
    expect([told.width, told.height, told.samples]).to.deep.equal([96, 64, 8]);
    const read = means(out);
    for (const [pass, { mean }] of Object.entries(told.passes))
      ['R', 'G', 'B'].forEach((c, k) => {
        const name = pass === 'beauty' ? c : `${pass}.${c}`;
        expect(read[name], name).to.be.closeTo(mean[k], 2e-6 + 1e-4 * mean[k]);
      });
    const kinds = Object.entries(told.rays).filter(([kind]) => kind !== 'total');
    expect(kinds.reduce((sum, [, n]) => sum + n, 0)).to.equal(told.rays.total);
    expect(told.rays.camera).to.equal(96 * 64 * 8);
    expect(told.peakMemoryBytes).to.be.above(1e7);
    expect(told.passes['diffuse.direct'].standardError[0]).to.be.above(0);
    // The light passes add up to the beauty (invariant 2).
    const sum = Object.entries(told.passes).reduce((s, [pass, { mean }]) => (pass === 'beauty' ? s : s + mean[1]), 0);
    expect(sum / told.passes.beauty.mean[1]).to.be.closeTo(1, 1e-5);
  });

  it('writes a file whose header OpenEXR’s own tool reads: windows, ZIP, float channels', () => {
    report(shot, '--region', '10,20,32,16');
    const header = execFileSync('exrheader', [out], { encoding: 'utf8' });
    expect(header).to.match(/dataWindow \(type box2i\): \(10 20\) - \(41 35\)/);
    expect(header).to.match(/displayWindow \(type box2i\): \(0 0\) - \(95 63\)/);
    expect(header).to.match(/compression \(type compression\): zip/);
    expect(header).to.match(/transmission\.indirect\.R, 32-bit floating-point/);
  });

  it('gives a region the bits of the full frame’s crop, whatever the threads', () => {
    const part = join(folder, 'part.exr');
    report(shot, '--threads', '1');
    copyFileSync(out, part);
    report(shot, '--threads', '2', '--region', '10,20,32,16');
    const crop = ['--ch', 'R,G,B', '--cut', '32x16+10+20'];
    // Ends with an error when one value differs.
    execFileSync('oiiotool', ['--fail', '0', '--hardfail', '0', out, ...crop, part, ...crop, '--diff']);
  });

  it('sets values, depth, samples, seed and size', () => {
    const base = report(shot);
    const deep = report(shot, '--max-depth', '12');
    expect(deep.passes['transmission.indirect'].mean[0]).to.be.above(base.passes['transmission.indirect'].mean[0]);
    const lamp = (...rest: string[]) => report(shot, '--set', '/environment/intensity=0', ...rest);
    const set = lamp('--set', '/lights/window/intensity=8', '--samples', '6', '--size', '48x32', '--seed', '7');
    expect([set.width, set.height, set.samples]).to.deep.equal([48, 32, 8]);
    expect(set.passes['diffuse.direct'].mean[0] / lamp().passes['diffuse.direct'].mean[0]).to.be.within(7, 9);
  });

  const bad: [string, string[], RegExp][] = [
    ['a file of another kind', [main, '--out', out], /is of no format that is read here/],
    ['no --out', [shot], /--out/],
    ['a region outside', [shot, '--out', out, '--region', '90,0,10,10'], /does not lie in the frame of 96 × 64/],
    ['a malformed size', [shot, '--out', out, '--size', 'large'], /--size is "large"/],
    ['an unknown option', [shot, '--sampels', '4'], /sampels/],
    ['10⁹ samples', [shot, '--out', out, '--set', '/sheets/preview/samples=1000000000'], /\/sheets\/preview\/samples is 1000000000, expected at most 65536/],
    ['a 100 000-pixel picture', [shot, '--out', out, '--size', '100000x64'], /\/sheets\/preview\/width is 100000/],
    ['a picture that does not fit', [shot, '--out', out, '--size', '16384x8192'], /need about .* of memory/],
    ['more pixels than are rendered', [shot, '--out', out, '--size', '16384x16384'], /268435456 pixels, more than the 134217728/],
    ['a value that is nowhere', [shot, '--out', out, '--set', '/lights/nope/intensity=2'], /nothing at \/lights\/nope/],
  ]; // prettier-ignore
  for (const [what, args, message] of bad)
    it(`refuses ${what} with one sentence`, async () => {
      // What these throw is what `main.ts` prints and ends with code 2 for.
      const error = await renderCommand(args).then(
        () => null,
        (e: Error) => e,
      );
      expect(error instanceof BadUse || error instanceof InvalidInput || error instanceof RangeError).to.equal(true);
      expect(error!.message).to.match(message);
    });

  it('ends with code 2 and the sentence alone on the error stream, for commands that are not there too', () => {
    for (const [args, message] of [
      [['render', join(folder, 'none'), '--out', out], /^There is no ".*none"\.\n$/],
      [['draw'], /^There is no command "draw"/],
    ] as const) {
      const result = dusting(...args);
      expect(result.code).to.equal(2);
      expect(result.errors).to.match(message);
      expect(result.out).to.equal('');
    }
  });
});

describe('a command asked for its use', () => {
  it('tells it, and does nothing else', () => {
    const { code, out, errors } = dusting('layout', '--help');
    expect({ code, errors }).to.deep.equal({ code: 0, errors: '' });
    expect(out).to.match(/^dusting layout <shot folder/);
  });
});

describe('dusting render of a bare glTF', function () {
  this.timeout(60_000);

  /** A white square seen head on, and what the callback adds. */
  async function glb(name: string, add: (d: Document) => void): Promise<string> {
    const document = new Document();
    const buffer = document.createBuffer();
    const scene = document.createScene();
    const mesh = square(0.5, 0);
    const part = document
      .createPrimitive()
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(mesh.positions as Float32Array<ArrayBuffer>).setBuffer(buffer))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(mesh.indices as Uint32Array<ArrayBuffer>).setBuffer(buffer))
      .setMaterial(document.createMaterial('white').setBaseColorFactor([1, 1, 1, 1]).setMetallicFactor(0).setRoughnessFactor(1)); // prettier-ignore
    scene.addChild(document.createNode('square').setMesh(document.createMesh().addPrimitive(part)));
    scene.addChild(document.createNode('camera').setTranslation([0, 0, 1]).setCamera(document.createCamera().setYFov(0.01).setAspectRatio(1).setType('perspective'))); // prettier-ignore
    add(document);
    const path = join(folder, name);
    mkdirSync(folder, { recursive: true });
    writeFileSync(
      path,
      await new WebIO().registerExtensions([KHRLightsPunctual, KHRMaterialsEmissiveStrength]).writeBinary(document),
    );
    return path;
  }
  const render = (path: string, ...rest: string[]) => report(path, '--size', '8x8', '--samples', '64', ...rest).passes;
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('takes candela as W/sr: a matt square at distance d under I has L = ρ(1 − F) I/(π d²), F = 4 % (Hecht)', async () => {
    const path = await glb('lamp.glb', (d) => {
      const lights = d.createExtension(KHRLightsPunctual);
      const light = lights.createLight('lamp').setType('point').setIntensity(20);
      d.getRoot().listScenes()[0].addChild(d.createNode('lamp').setTranslation([0, 0, 2]).setExtension('KHR_lights_punctual', light)); // prettier-ignore
    });
    const { mean } = render(path, '--max-depth', '1')['diffuse.direct'];
    expect(mean[0]).to.be.closeTo((0.96 * 20) / (Math.PI * 4), 1e-3);
  });

  it('lights by emissive surfaces times their strength, on black', async () => {
    const path = await glb('glow.glb', (d) => {
      const strong = d.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(5) as EmissiveStrength; // prettier-ignore
      d.getRoot().listMaterials()[0].setEmissiveFactor([0.5, 0, 0]).setExtension('KHR_materials_emissive_strength', strong); // prettier-ignore
    });
    const passes = render(path);
    expect(passes.emission.mean[0]).to.be.closeTo(2.5, 1e-5);
    expect(passes.background.mean).to.deep.equal([0, 0, 0]);
  });

  it('looks from where it sees everything when there is no camera, and warns', async () => {
    const path = await glb('blind.glb', (d) => d.getRoot().listCameras()[0].dispose());
    const { warnings } = report(path, '--size', '16x16', '--samples', '4');
    expect(warnings.join()).to.match(/blind\.glb: no camera to look through; one that sees everything was added/);
  });
});
