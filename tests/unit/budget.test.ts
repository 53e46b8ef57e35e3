/** What frames take, counted in rays against whole renders, and farm hours against sums done by hand. */
import { expect } from 'chai';
import { farmBudget } from '../../core/predict/budget.ts';
import { timeFrame } from '../../core/predict/frame-time.ts';
import { pilotSeed } from '../../core/predict/seeds.ts';
import type { Sheet } from '../../core/document/schema.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { smallShot } from '../api/small-shot.ts';

describe('time of a frame', () => {
  for (const [name, settings] of [
    ['fixed samples', { samples: 64 }],
    ['samples by need', { samples: 128, adaptive: { on: true, target: 2, least: 16 } }],
  ] as [string, Partial<Sheet>][])
    it(`is told from a quarter of its rays at most, within its own error: ${name}`, async () => {
      const { document, files } = await smallShot('TIME', settings);
      const sheet = document.sheets.preview;
      const scene = compileScene(document, await loadAssets(document, async (p) => files.get(p) ?? null, 'x'), sheet);
      const frame = { x: 0, y: 0, width: sheet.width, height: sheet.height };
      const rays = renderGroups(scene, settingsOf(sheet), createFilm(frame, scene.layout), sheet.samples / 4);
      let now = 0;
      const told = timeFrame({ scene, sheet }, pilotSeed(3), () => (now += 500));
      expect(told.error).to.be.within(0.001, 0.2);
      expect(Math.abs(told.rays / rays - 1)).to.be.below(3 * told.error);
      // The clock says half a second for what was traced, at most a quarter of the frame.
      expect(told.threadSeconds).to.be.at.least(0.5 * 4 * 0.9);
    });
});

describe('budget of a farm', () => {
  const work = { threadSeconds: 600, onceSeconds: 30 };
  it('multiplies what each frame takes, and keeps apart what each machine does once', () => {
    const budget = farmBudget(work, { frames: 120, machines: 10, threads: 20, speed: 1, price: 3 });
    // 600 s on 20 threads are 30 s; 120 of them are an hour. Ten machines at 30 s each are 5 min.
    expect(budget.frameSeconds).to.equal(30);
    expect(budget.frameHours).to.equal(1);
    expect(budget.onceHours).to.be.closeTo(1 / 12, 1e-12);
    expect(budget.machineHours).to.be.closeTo(13 / 12, 1e-12);
    expect(budget.price).to.be.closeTo(3.25, 1e-12);
    // Twelve frames a machine, and 30 s before them: 390 s.
    expect(budget.wholeHours).to.be.closeTo(390 / 3600, 1e-12);
  });
  it('deals frames out whole, and leaves machines idle that get none', () => {
    const farm = { frames: 11, machines: 10, threads: 20, speed: 2, price: null };
    const eleven = farmBudget(work, farm);
    expect(eleven.frameSeconds).to.equal(15);
    // One machine has two.
    expect(eleven.wholeHours).to.be.closeTo((2 * 15 + 15) / 3600, 1e-12);
    expect(eleven.price).to.equal(null);
    expect(farmBudget(work, { ...farm, frames: 3 }).onceHours).to.be.closeTo((3 * 15) / 3600, 1e-12);
  });
});
