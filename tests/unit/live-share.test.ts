/** A live look: something everywhere at once, and in the end the bits of an ordinary render (invariant 1). */
import { expect } from 'chai';
import { channel } from '../../core/data/picture.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { livePlanes, LiveShare } from '../../core/render/frame/live-share.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import type { Sheet } from '../../core/document/schema.ts';
import { smallShot } from '../api/small-shot.ts';

const REGION = { x: 13, y: 9, width: 41, height: 37 };
const plain = (bytes: number) => new ArrayBuffer(bytes);

describe('live look', () => {
  let scene: CompiledScene;
  let sheet: Sheet;
  before(async () => {
    const { document, files } = await smallShot('LIVE', { samples: 24 });
    sheet = document.sheets.preview;
    const assets = await loadAssets(document, async (path) => files.get(path) ?? null, 'x');
    scene = compileScene(document, assets, sheet);
  });
  const shares = (of: number, settings = settingsOf(sheet)) => {
    const planes = livePlanes(REGION, plain);
    const all = Array.from({ length: of }, (_, index) => new LiveShare(scene, settings, REGION, { index, of }, planes));
    return { planes, all };
  };
  /** A step of each in turn until none has more. */
  function finish(all: LiveShare[]): number {
    let steps = 0;
    for (let left = all; left.length > 0; left = left.filter((share) => share.step())) steps += left.length;
    return steps;
  }
  function usual(settings = settingsOf(sheet)) {
    const film = createFilm(REGION, scene.layout);
    renderGroups(scene, settings, film, settings.samples / 4);
    return pictureOf([film], REGION, ['beauty', 'error.beauty', 'samples'], scene.layout);
  }

  it('ends with the bits of an ordinary render, however many workers share it', () => {
    const picture = usual();
    for (const of of [1, 3]) {
      const { planes, all } = shares(of);
      finish(all);
      expect(planes.red).to.deep.equal(channel(picture, 'beauty.R'));
      expect(planes.blue).to.deep.equal(channel(picture, 'beauty.B'));
      expect(planes.error).to.deep.equal(channel(picture, 'error.beauty'));
      expect(new Set(planes.samples)).to.deep.equal(new Set([24]));
    }
  });

  it('gives pixels the samples that adaptive sampling does', () => {
    const settings = { ...settingsOf(sheet), adaptive: { on: true, target: 4, least: 16 }, samples: 64 };
    const { planes, all } = shares(2, settings);
    finish(all);
    expect(planes.samples).to.deep.equal(channel(usual(settings), 'samples'));
    expect(new Set(planes.samples).size).to.be.above(1);
  });

  it('shows something of every pixel after tracing a sixty-fourth of one group, rounded up by its tiles', () => {
    const { planes, all } = shares(1);
    const [share] = all;
    planes.red.fill(NaN);
    share.step();
    // 4 samples for one pixel of each 8 × 8, and of what is left of one at the edges.
    expect(share.traced).to.be.at.most(4 * 8 * 8);
    expect(planes.red.some(Number.isNaN)).to.equal(false);
    expect(planes.samples.every((n) => n === 0)).to.equal(true);
  });

  it('has nothing to do where there are more workers than tiles', () => {
    const planes = livePlanes({ x: 0, y: 0, width: 4, height: 4 }, plain);
    const idle = new LiveShare(
      scene,
      settingsOf(sheet),
      { x: 0, y: 0, width: 4, height: 4 },
      { index: 5, of: 6 },
      planes,
    );
    expect(idle.step()).to.equal(false);
  });
});
