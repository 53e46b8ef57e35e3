/** From a shot that is wrong to a kept change, over HTTP, and all of it there after a restart. */
import { setTimeout as sleep } from 'node:timers/promises';
import { isDeepStrictEqual } from 'node:util';
import { expect } from 'chai';
import type { Effect } from '../../core/contracts/figures.ts';
import type { Finding } from '../../core/contracts/finding.ts';
import { valuesOf } from '../unit/bench-shot.ts';
import { read } from '../unit/effects.ts';
import type { FindingSummary, ShotState, TrialSummary } from '../../core/contracts/events.ts';
import { Dusting, until } from './harness.ts';
import { filesOf, smallShot } from './small-shot.ts';

const CODE = 'STORY-1';

describe('from finding to kept change', function () {
  this.timeout(180_000);
  let dusting: Dusting;
  const shot = () => dusting.shot(CODE);
  const trial = async (number: number) => (await shot()).trials.find((t) => t.number === number)!;
  const tryOut = (body: object) =>
    dusting.post<{ number: number }>(`/shots/${CODE}/trials`, { finding: null, remedy: null, region: null, sheet: 'preview', values: null, ...body }); // prettier-ignore
  let finding: FindingSummary;
  let whole: Finding;

  before(async () => {
    dusting = await Dusting.create();
    await dusting.server();
    await dusting.send(filesOf(await smallShot(CODE, { samples: 64 })));
    dusting.worker(2);
    await until('causes are found', async () => (await shot()).renders[0].examined === 'done', 90);
    finding = (await shot()).findings.find((f) => f.key === 'limits.transmission')!;
    whole = await dusting.finding(finding.id);
  });
  after(() => dusting.destroy());

  it('refuses a second shot of the same code', async () => {
    const { status, body } = await dusting.send(filesOf(await smallShot(CODE)));
    expect(status).to.equal(409);
    expect(body.error).to.match(/STORY-1 is here already/);
    expect((await dusting.get('/shots')).body).to.have.length(1);
  });

  it('lists the shot with what is open and how bad', async () => {
    const [row] = (await dusting.get('/shots')).body;
    expect(row).to.include({ code: CODE, name: 'three panes', version: 1, worst: 'stop' });
    expect(row.open).to.be.at.least(1);
  });

  it('finds that three panes have six faces and the limits let two pass', async () => {
    expect(finding.cause).to.match(/^limits\./);
    expect(whole.headline).to.equal('A straight path crosses 6 faces; paths end at 2');
    expect(whole.why).to.match(/3 bodies of clear glass × 2 faces = 6/);
    const mask = new Uint8Array(
      await (await fetch(`${dusting.address}/api/findings/${finding.id}/mask`)).arrayBuffer(),
    );
    expect(mask.length).to.equal(96 * 64);
    expect(mask[32 * 96 + 48], 'the middle looks through all three').to.equal(1);
    expect(mask[2 * 96 + 2], 'the corner through none').to.equal(0);
  });

  it('answers for every pass, its figures and a pixel', async () => {
    const figures = (await dusting.get('/renders/1/figures')).body;
    expect(figures.crossings.most).to.equal(6);
    expect(figures.cuts.transmission).to.be.within(0.01, 1);
    const pixel = (await dusting.get('/renders/1/pixel?x=48&y=32')).body;
    expect(pixel.crossings).to.equal(6);
    expect(pixel.samples).to.equal(64);
    expect((await dusting.get('/renders/1/pixel?x=480&y=32')).status).to.equal(404);
    // Over the corner of four tiles, and at the frame's own corner: means of what single pixels have.
    for (const [x, y, count] of [
      [32, 32, 9],
      [0, 0, 4],
    ]) {
      const around = [-1, 0, 1]
        .flatMap((dx) => [-1, 0, 1].map((dy) => [x + dx, y + dy]))
        .filter(([px, py]) => px >= 0 && py >= 0);
      const values = await Promise.all(around.map(async ([px, py]) => (await dusting.get(`/renders/1/pixel?x=${px}&y=${py}`)).body['beauty.G'])); // prettier-ignore
      const area = (await dusting.get<{ name: string; mean: number; deviation: number }[]>(`/renders/1/area?x=${x}&y=${y}&radius=1`)).body; // prettier-ignore
      const { mean, deviation } = area.find(({ name }) => name === 'beauty.G')!;
      const wanted = values.reduce((a, b) => a + b, 0) / count;
      expect(mean).to.be.closeTo(wanted, 1e-6);
      expect(deviation).to.be.closeTo(Math.sqrt(values.reduce((sum, v) => sum + (v - wanted) ** 2, 0) / count), 1e-5);
    }
    expect((await dusting.get('/renders/1/area?x=a&y=2&radius=1')).status).to.equal(404);
  });

  it('tries a remedy: predicted before it begins, measured after, the prediction not touched', async () => {
    const remedy = whole.remedies[0];
    const made = await tryOut({ finding: finding.id, remedy: remedy.id });
    expect(made.status).to.equal(201);
    const begun = await trial(made.body.number);
    expect(begun.predicted, 'stored before any ray').to.deep.equal(remedy.predicted);
    expect(begun.measured).to.equal(null);
    await until('it is measured', async () => (await trial(made.body.number)).state === 'done');
    const done = await trial(made.body.number);
    expect(done.predicted).to.deep.equal(remedy.predicted);
    const [measured, predicted] = [read(done.measured), read(remedy.predicted)];
    expect(measured.stops).to.be.closeTo(predicted.stops, 0.2);
    expect(measured.rays / predicted.rays).to.be.within(0.75, 1.25);
    // Every figure that was measured was forecast, or it says why not.
    for (const { id } of done.measured!.figures)
      expect(
        remedy.predicted!.figures.find((one) => one.id === id),
        id,
      ).to.not.equal(undefined);
    const memory = (effect: Effect) => effect.figures.find(({ id }) => id === 'memory')!.after;
    expect(memory(done.measured!)).to.equal(memory(remedy.predicted!));
  });

  it('predicts for another region and for values set by hand before it tries them', async () => {
    const region = { x: 20, y: 10, width: 50, height: 40 };
    const made = await tryOut({ finding: finding.id, remedy: whole.remedies[0].id, region });
    const byHand = await tryOut({ region, values: { '/limits/transmission': 0 } });
    for (const { body } of [made, byHand]) {
      await until('it is measured', async () => (await trial(body.number)).state === 'done');
      const [predicted, measured] = [await trial(body.number)].flatMap((one) => [
        read(one.predicted),
        read(one.measured),
      ]);
      expect(measured.stops).to.be.closeTo(predicted.stops, 0.25);
      expect(measured.rays / predicted.rays).to.be.within(0.75, 1.25);
    }
    expect(read((await trial(byHand.body.number)).measured).stops).to.be.below(-0.1);
  });

  it('refuses trials that could not show anything', async () => {
    const same = await tryOut({ region: { x: 0, y: 0, width: 8, height: 8 }, values: { '/samples': 64 } });
    expect(same.status).to.equal(409);
    expect(same.body.error).to.match(/already has these values/);
    const size = await tryOut({ region: { x: 0, y: 0, width: 8, height: 8 }, values: { '/width': 50 } });
    expect(size.body.error).to.match(/same pixels/);
    const outside = await tryOut({ region: { x: 500, y: 0, width: 8, height: 8 }, values: { '/samples': 32 } });
    expect(outside.body.error).to.match(/96 × 64 frame/);
    const bad = await tryOut({ region: { x: 0, y: 0, width: 8, height: 8 }, values: { '/samples': 30 } });
    expect(bad.status).to.equal(400);
    expect(bad.body.error).to.match(/multiple of 4/);
    const nowhere = await tryOut({ region: { x: 0, y: 0, width: 8, height: 8 }, values: { '/shininess': 30 } });
    expect(nowhere.body.error).to.match(/a place that exists/);
    expect((await tryOut({})).status).to.equal(400);
    expect((await tryOut({ finding: finding.id, remedy: 'magic' })).status).to.equal(404);
  });

  it('stops a trial, which cannot be kept then', async () => {
    const made = await tryOut({ region: { x: 0, y: 0, width: 96, height: 64 }, values: { '/samples': 4096 } });
    await until('it renders', async () => (await trial(made.body.number)).state === 'rendering');
    const { id } = await trial(made.body.number);
    expect((await dusting.post(`/trials/${id}/stop`)).status).to.equal(204);
    expect((await trial(made.body.number)).state).to.equal('stopped');
    const renders = (await shot()).renders.filter((r) => r.state === 'active');
    expect(renders, 'its renders stopped too').to.deep.equal([]);
    const kept = await dusting.post(`/trials/${id}/keep`, { both: true });
    expect(kept.status).to.equal(409);
    expect(kept.body.error).to.match(/nothing is proven yet/);
    expect((await dusting.post(`/trials/${id}/drop`)).status).to.equal(204);
    expect((await trial(made.body.number)).verdict).to.equal('drop');
  });

  it('keeps a trial in both sheets as a new version, and undoes and redoes it to the same bytes', async () => {
    const before = await shot();
    const { id } = await trial(1);
    expect((await dusting.post(`/trials/${id}/keep`, { both: true })).status).to.equal(204);
    const kept = await shot();
    expect(kept.head.number).to.equal(2);
    expect(kept.head.reason).to.match(/^Kept trial 1: Let 99 % through \(preview and final\)$/);
    const values = valuesOf(whole.remedies[0]);
    for (const sheet of ['preview', 'final'] as const)
      expect(kept.document.sheets[sheet].limits.transmission).to.equal(values['/limits/transmission']);
    expect(kept.renders[0].version, 'the picture is older than the shot').to.equal(1);

    expect((await dusting.post(`/shots/${CODE}/undo`, { base: kept.head.id })).status).to.equal(204);
    const undone = await shot();
    expect(JSON.stringify(undone.document)).to.equal(JSON.stringify(before.document));
    expect(undone.redo!.number).to.equal(2);
    const stale = await dusting.post(`/shots/${CODE}/undo`, { base: kept.head.id });
    expect(stale.status).to.equal(409);
    expect(stale.body.error).to.match(/at version 1 now/);
    expect((await dusting.post(`/shots/${CODE}/undo`, { base: undone.head.id })).body.error).to.match(
      /nothing to undo/,
    );
    await dusting.post(`/shots/${CODE}/redo`, { base: undone.head.id });
    expect(JSON.stringify((await shot()).document)).to.equal(JSON.stringify(kept.document));
  });

  it('dismisses a finding with a reason and reopens it', async () => {
    await dusting.post(`/findings/${finding.id}/aside`, { reason: 'the panes are hidden in the next cut' });
    const aside = (await shot()).findings.find((f) => f.id === finding.id)!;
    expect(aside.aside).to.equal('the panes are hidden in the next cut');
    await dusting.post(`/findings/${finding.id}/take-up`);
    expect((await shot()).findings.find((f) => f.id === finding.id)!.aside).to.equal(null);
    expect((await dusting.post(`/findings/${finding.id}/aside`, { reason: '' })).status).to.equal(400);
  });

  it('loses nothing over a restart of everything', async () => {
    const strip = ({ revision: _, ...state }: ShotState) => state;
    // Tiles of the stopped trial that were in hand still come in.
    let before = strip(await shot());
    await until('nothing is under way', async () => {
      const earlier = before;
      await sleep(1500);
      before = strip(await shot());
      return before.preflight?.state === 'done' && isDeepStrictEqual(before, earlier);
    });
    const picture = await dusting.bits(1);
    await dusting.stop();
    await dusting.server();
    expect(strip(await shot())).to.deep.equal(before);
    for (const [name, bytes] of await dusting.bits(1)) expect(bytes.equals(picture.get(name)!)).to.equal(true);
    dusting.worker(2);
    const made = await dusting.post<{ id: number }>(`/shots/${CODE}/renders`, { sheet: 'preview', region: null });
    await dusting.reach(CODE, made.body.id, 'done');
    await until('causes are looked for', async () => (await dusting.render(CODE, made.body.id)).examined === 'done');
    const left = (await shot()).findings.filter((f) => f.renderId === made.body.id).map((f) => f.key);
    expect(left, 'the kept change cured it').to.not.include('limits.transmission');
    const verdicts = (await shot()).trials.map((t: TrialSummary) => t.verdict);
    expect(verdicts[0]).to.equal('keep');
  });
});
