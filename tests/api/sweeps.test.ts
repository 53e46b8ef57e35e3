/**
 * Sweeps over HTTP: several values of one thing on one region. Checked against what light does: it is linear in its
 * source (Kajiya 1986), and errors fall with the root of the samples.
 */
import { expect } from 'chai';
import type { ShotState, TrialSummary } from '../../core/contracts/events.ts';
import { read } from '../unit/effects.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'SWEEP-1';
const REGION = { x: 8, y: 8, width: 40, height: 32 };

describe('sweeps', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const sweep = (title: string, pointer: string, values: unknown[], more: object = {}) =>
    dusting.post<{ id: number }>(`/shots/${CODE}/sweeps`, {
      title,
      pointer,
      sheet: 'preview',
      region: REGION,
      steps: values.map((value) => ({ label: String(value), values: { [pointer]: value } })),
      ...more,
    });
  const stepsOf = (state: ShotState, id: number) => state.trials.filter((t) => t.sweepId === id);
  async function done(id: number): Promise<TrialSummary[]> {
    await until('all steps are measured', async () => stepsOf(await shot(), id).every((t) => t.state === 'done'), 90);
    return stepsOf(await shot(), id);
  }

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    const small = await smallShot(CODE, { samples: 32 });
    small.document.environment.intensity = 0;
    await dusting.send(filesOf(small));
    dusting.worker(2);
    await until('the base render is examined', async () => (await shot()).renders[0].examined === 'done', 90);
  });
  after(() => dusting.destroy());

  it('measures a light at four intensities: two stops down to two stops up, as the source is', async () => {
    const { status, body } = await sweep('Window intensity', '/lights/window/intensity', [0.25, 0.5, 2, 4]);
    expect(status).to.equal(201);
    const steps = await done(body.id);
    expect(steps.map((t) => t.step)).to.deep.equal(['0.25', '0.5', '2', '4']);
    [-2, -1, 1, 2].forEach((stops, i) => expect(read(steps[i].measured).stops).to.be.closeTo(stops, 1e-3));
    const state = await shot();
    expect(state.sweeps.find((s) => s.id === body.id)).to.include({
      title: 'Window intensity',
      pointer: '/lights/window/intensity',
    });
  });

  it('renders what stands now once for all, on the same random numbers', async () => {
    const { body } = await sweep('Samples', '/samples', [8, 64, 128]);
    const steps = await done(body.id);
    expect(new Set(steps.map((t) => t.beforeRenderId)).size).to.equal(1);
    // The root of 32 over n, with errors that are themselves measured: a fifth.
    steps.forEach(({ measured }, i) => {
      const n = [8, 64, 128][i];
      const { rays, noiseAfter, noiseBefore } = read(measured);
      expect(rays, `rays at ${n}`).to.be.closeTo(n / 32, (0.05 * n) / 32);
      expect(noiseAfter / noiseBefore, `noise at ${n}`).to.be.closeTo(Math.sqrt(32 / n), 0.2 * Math.sqrt(32 / n));
    });
  });

  it('forecasts each step before any of them is rendered', async () => {
    for (const { predicted, measured } of (await shot()).trials.filter((t) => t.sweepId !== null)) {
      expect(predicted).not.to.equal(null);
      expect(read(predicted).rays / read(measured).rays).to.be.within(0.85, 1.15);
    }
  });

  it('keeps one step, and undo takes it back', async () => {
    const state = await shot();
    const four = state.trials.find((t) => t.step === '0.5')!;
    expect((await dusting.post(`/trials/${four.id}/keep`, { both: false })).status).to.be.below(300);
    const kept = await shot();
    expect(kept.document.lights.window.intensity).to.equal(0.5);
    expect(kept.head.reason).to.match(/Window intensity 0\.5/);
    await dusting.post(`/shots/${CODE}/undo`, { base: kept.head.id });
    expect((await shot()).document.lights.window.intensity).to.equal(1);
  });

  it('stops one step without the render that others wait for, and all of them together', async () => {
    const { body } = await sweep('Samples', '/samples', [1024, 2048, 4096]);
    await until('it is rendered', async () => stepsOf(await shot(), body.id).every((t) => t.state === 'rendering'), 60);
    const [first] = stepsOf(await shot(), body.id);
    await dusting.post(`/trials/${first.id}/stop`);
    const state = await shot();
    const side = (id: number | null) => state.renders.find((r) => r.id === id)!.state;
    expect(side(first.afterRenderId)).to.equal('stopped');
    expect(side(first.beforeRenderId)).not.to.equal('stopped');
    await dusting.post(`/sweeps/${body.id}/stop`);
    const after = await shot();
    for (const trial of stepsOf(after, body.id)) expect(trial.state).to.equal('stopped');
    expect(after.renders.filter((r) => r.state === 'active' && r.samples >= 1024)).to.deep.equal([]);
    expect((await dusting.post(`/sweeps/${body.id}/stop`)).body.error).to.match(/Nothing of the sweep/);
  });

  it('refuses what would show nothing, or twice the same, and what cannot be set', async () => {
    const present = await sweep('Samples', '/samples', [32, 64]);
    expect(present.status).to.equal(409);
    expect(present.body.error).to.match(/“32” is the current value in the preview sheet/);
    const twice = await sweep('Samples', '/samples', [64, 64]);
    expect(twice.body.error).to.match(/are the same change/);
    expect((await sweep('Samples', '/samples', [64])).status).to.equal(400);
    const bad = await sweep('Samples', '/samples', [64, -4]);
    expect(bad.status).to.equal(400);
    expect(bad.body.error).to.match(/samples/);
    expect((await sweep('Samples', '/samples', [4, 8])).body.error).to.match(/8 samples at least/);
    expect((await sweep('Width', '/width', [64, 128])).body.error).to.match(/cannot change the width/);
    expect((await sweep('Nothing', '/nowhere', [64, 128])).status).to.equal(400);
    expect((await shot()).sweeps.length).to.equal(3);
  });
});
