/** A place asked from a shell: lights, what stands between, what keeps a shadow away; bad questions said by name. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import type { ToldPlace, ToldRegion } from '../../core/contracts/place.ts';
import { askCommand } from '../../cli/ask.ts';
import { previewShadowsCommand } from '../../cli/preview-shadows.ts';
import { smallShot } from '../api/small-shot.ts';
import { captured } from './captured.ts';

const folder = mkdtempSync(join(tmpdir(), 'dusting-ask-'));
const refused = (...args: string[]) => askCommand([folder, ...args]).then(() => '', (error: Error) => error.message); // prettier-ignore

describe('dusting ask', () => {
  before(async () => {
    const { document, files } = await smallShot('ASK-1');
    document.lights.window.castsShadows = false;
    for (const [path, bytes] of [...files, ['shot.json', JSON.stringify(document)] as const]) {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), bytes);
    }
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('says which shadow is missing, why, and what the remedy does there', async () => {
    const told = JSON.parse(await captured(() => askCommand([folder, '--pixel', '77,56', '--json']))) as ToldPlace;
    expect(told.object).to.deep.equal({ id: 'wall', name: 'wall' });
    const [window] = told.lights;
    expect(window).to.include({ id: 'window', state: 'missing', cause: 'shadows.light-casts-none' });
    expect(window.blockers[0]).to.include({ id: 'pane0', blocks: false });
    expect(window.remedies[0].values).to.deep.equal({ '/lights/window/castsShadows': true });
    expect(window.remedies[0].stops).to.be.below(-0.05);
  });

  it('says the same in words, of one light alone where it is named', async () => {
    const text = await captured(() => askCommand([folder, '--pixel', '77,56', '--light', 'window']));
    expect(text).to.match(
      /^Pixel 77,56: wall, 5\.\d+ m away\.\nThe shadow of pane 0, pane 1 and pane 2 by window is missing: window casts no shadows\./,
    );
    expect(text).to.match(/→ Let window cast shadows \(−\d\.\d\d stops here\)/);
    expect(text).not.to.match(/environment \(/);
  });

  it('asks a region: shares of its places, and the place that tells most', async () => {
    const told = JSON.parse(await captured(() => askCommand([folder, '--region', '60,40,30,20', '--json']))) as ToldRegion; // prettier-ignore
    expect(told.places).to.be.within(20, 60);
    const window = told.lights.find(({ id }) => id === 'window')!;
    expect(window.missing).to.be.within(0.05, 1);
    expect(told.sentence).to.match(/^On \d+ % of it a shadow of window is missing\. The shadow of pane/);
    expect(told.telling.lights[0]).to.include({ id: 'window', state: 'missing' });
    expect(told.lights.reduce((sum, { share }) => sum + share, 0)).to.be.closeTo(1, 1e-9);
    const text = await captured(() => askCommand([folder, '--region', '60,40,30,20']));
    expect(text).to.match(/^Region 60,40, 30 × 20: \d+ places/);
    expect(text).to.contain('The place that tells most:\nPixel ');
  });

  it('refuses a place off the frame, a light that does not shine and no place at all', async () => {
    expect(await refused('--pixel', '96,10')).to.equal('--pixel 96,10 does not lie in the frame, 96 × 64 pixels.');
    expect(await refused('--pixel', '10,10', '--light', 'moon')).to.equal('There is no light "moon" that shines; there are window, environment.'); // prettier-ignore
    expect(await refused()).to.match(/^Name the pixel: --pixel x,y\./);
    expect(await refused('--region', '90,0,30,20')).to.equal('--region 90,0,30,20 does not lie in the frame, 96 × 64 pixels.'); // prettier-ignore
    expect(await refused('--region', '1,1,5,5', '--pixel', '1,1')).to.match(/^Ask a pixel or a region, not both\./);
    expect(await refused('--pixel', 'middle')).to.match(/--pixel/);
  });
});

describe('dusting preview-shadows', () => {
  const shot = mkdtempSync(join(tmpdir(), 'dusting-preview-'));
  const refusedBy = (...args: string[]) => previewShadowsCommand([shot, ...args]).then(() => '', (error: Error) => error.message); // prettier-ignore
  before(async () => {
    const { document, files } = await smallShot('PRE-1');
    for (const [path, bytes] of [...files, ['shot.json', JSON.stringify(document)] as const]) {
      mkdirSync(dirname(join(shot, path)), { recursive: true });
      writeFileSync(join(shot, path), bytes);
    }
  });
  after(() => rmSync(shot, { recursive: true, force: true }));

  it('tells how wrong maps are as set, why, and what would fit; those that fit where nothing is set', async () => {
    const told = async (...args: string[]) => JSON.parse(await captured(() => previewShadowsCommand([shot, ...args, '--json']))) as { wrong: number; isKept: boolean; spec: { lightDistance: number } }; // prettier-ignore
    const fitting = await told();
    expect(fitting.isKept).to.equal(false);
    const near = await told('--set', `lightDistance=${fitting.spec.lightDistance / 100}`);
    expect(near.wrong).to.be.above(fitting.wrong + 0.01);
    const text = await captured(() => previewShadowsCommand([shot, '--set', `lightDistance=${fitting.spec.lightDistance / 100}`])); // prettier-ignore
    expect(text).to.match(/^Shadows of window by depth maps as set: \d+ % of what it lights is wrong/);
    expect(text).to.match(/\d+ % {2}beyond the light’s distance/);
    expect(text).to.match(/→ Fits this camera: .*lightDistance=/);
  });

  it('refuses settings that are none, values out of range, and lights without maps', async () => {
    expect(await refusedBy('--set', 'colour=1')).to.match(/there is nothing at \/previewShadows\/colour to set/);
    expect(await refusedBy('--set', 'resolution=7')).to.match(/resolution/);
    expect(await refusedBy('--light', 'moon')).to.equal('There is no light "moon" that shines; there are window, environment.'); // prettier-ignore
    expect(await refusedBy('--light', 'environment')).to.equal(
      'Light "environment" has no depth maps; there are those of window.',
    );
  });
});
